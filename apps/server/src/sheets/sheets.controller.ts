import { NewSheet, SaveSheet, type RenderView, type SheetView } from "@hardline/contract";
import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Param,
  ParseFloatPipe,
  Post,
  Put,
  Query,
} from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { ProblemException } from "../http/problems";
import { RendersService } from "../renders/renders.service";
import { SheetsService } from "./sheets.service";

@ApiTags("sheets")
@Controller("api")
export class SheetsController {
  constructor(
    @Inject(SheetsService) private readonly sheets: SheetsService,
    @Inject(RendersService) private readonly renders: RendersService,
  ) {}

  @Get("sheets")
  list(): Promise<SheetView[]> {
    return this.sheets.list();
  }

  @Post("sheets")
  @bodySchema("NewSheet")
  create(@Body() sheet: NewSheet): Promise<SheetView> {
    return this.sheets.create(sheet);
  }

  @Get("sheets/:id")
  get(@Param("id", IdPipe) id: string): Promise<SheetView> {
    return this.sheets.get(id);
  }

  @Put("sheets/:id")
  @bodySchema("SaveSheet")
  @ApiOperation({
    summary: "Change a sheet; 409 if somebody else changed it meanwhile, 422 for several materials",
  })
  save(@Param("id", IdPipe) id: string, @Body() sheet: SaveSheet): Promise<SheetView> {
    return this.sheets.save(id, sheet);
  }

  @Delete("sheets/:id")
  @HttpCode(204)
  remove(@Param("id", IdPipe) id: string): Promise<void> {
    return this.sheets.remove(id);
  }

  @Post("sheets/:id/renders")
  @ApiOperation({ summary: "Ask for the files of a sheet as it is arranged" })
  async files(@Param("id", IdPipe) id: string): Promise<RenderView> {
    const { placings } = await this.sheets.get(id);
    if (placings.length === 0)
      throw new ProblemException(422, "Nothing arranged", "No piece lies on this sheet yet.");
    return this.renders.ask({ kind: "sheet", wish: { sheetId: id } });
  }

  @Post("routes/:id/piece")
  @HttpCode(200)
  @ApiOperation({ summary: "A route as a piece for sheets: made by a worker, or as it is known already" })
  piece(
    @Param("id", IdPipe) id: string,
    @Query("bleedMm", new ParseFloatPipe({ optional: true })) bleedMm = 0,
  ): Promise<RenderView> {
    if (!(bleedMm >= 0 && bleedMm <= 20))
      throw new ProblemException(400, "Not valid", `bleedMm is ${bleedMm}; allowed: 0 to 20`);
    return this.renders.piece(id, bleedMm);
  }
}

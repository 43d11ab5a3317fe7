import {
  MaterialBody,
  SaveMaterial,
  TypedWedge,
  type CurveView,
  type MaterialView,
  type TicketView,
} from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Put, Query } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { MaterialsService } from "./materials.service";
import { WedgesService } from "./wedges.service";

@ApiTags("materials")
@Controller("api/materials")
export class MaterialsController {
  constructor(
    @Inject(MaterialsService) private readonly materials: MaterialsService,
    @Inject(WedgesService) private readonly wedges: WedgesService,
  ) {}

  @Get()
  @ApiOperation({ summary: "What the shop knows of its materials, and how many routes are for each" })
  list(): Promise<MaterialView[]> {
    return this.materials.list();
  }

  @Post()
  @bodySchema("MaterialBody")
  create(@Body() material: MaterialBody): Promise<MaterialView> {
    return this.materials.create(material);
  }

  @Put(":key")
  @bodySchema("SaveMaterial")
  @ApiOperation({ summary: "Change a material; 409 if somebody else changed it meanwhile" })
  save(@Param("key") key: string, @Body() { version, ...material }: SaveMaterial): Promise<MaterialView> {
    return this.materials.save(key, version, material);
  }

  @Delete(":key")
  @HttpCode(204)
  @ApiOperation({ summary: "Remove a material; 409 while a route on the board is for it" })
  remove(@Param("key") key: string): Promise<void> {
    return this.materials.remove(key);
  }

  @Post(":key/wedge")
  @ApiOperation({
    summary: "A ticket for this material's step wedge; ?proof=1: with its newest curve taken off",
  })
  wedge(@Param("key") key: string, @Query("proof") proof?: string): Promise<TicketView> {
    return this.wedges.ticket(key, proof === "1");
  }

  @Get(":key/curves")
  curves(@Param("key") key: string): Promise<CurveView[]> {
    return this.wedges.curves(key);
  }

  @Post(":key/curves")
  @bodySchema("TypedWedge")
  @ApiOperation({ summary: "A curve from typed readings" })
  typed(@Param("key") key: string, @Body() { readings }: TypedWedge): Promise<CurveView> {
    return this.wedges.fromReadings(key, readings);
  }

  @Post(":key/curves/photo/:id")
  @ApiOperation({ summary: "A curve from a photograph of the wedge, uploaded as an artwork" })
  photo(@Param("key") key: string, @Param("id", IdPipe) id: string): Promise<CurveView> {
    return this.wedges.fromPhoto(key, id);
  }
}

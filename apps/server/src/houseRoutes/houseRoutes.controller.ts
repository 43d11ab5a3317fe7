import { NewHouseRoute, type HouseRouteView } from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { HouseRoutesService } from "./houseRoutes.service";

@ApiTags("house routes")
@Controller("api/house-routes")
export class HouseRoutesController {
  constructor(@Inject(HouseRoutesService) private readonly routes: HouseRoutesService) {}

  @Get()
  @ApiOperation({ summary: "Routes that the shop keeps to start tickets from" })
  list(): Promise<HouseRouteView[]> {
    return this.routes.list();
  }

  @Post()
  @bodySchema("NewHouseRoute")
  create(@Body() route: NewHouseRoute): Promise<HouseRouteView> {
    return this.routes.create(route);
  }

  @Delete(":id")
  @HttpCode(204)
  remove(@Param("id", IdPipe) id: string): Promise<void> {
    return this.routes.remove(id);
  }
}

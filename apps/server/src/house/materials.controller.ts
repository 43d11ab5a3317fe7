import { MaterialBody, SaveMaterial, type MaterialView } from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Put } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { bodySchema } from "../http/openApi";
import { MaterialsService } from "./materials.service";

@ApiTags("materials")
@Controller("api/materials")
export class MaterialsController {
  constructor(@Inject(MaterialsService) private readonly materials: MaterialsService) {}

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
}

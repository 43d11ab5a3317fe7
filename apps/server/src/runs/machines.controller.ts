import { SaveMachine, type MachineView } from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Put } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { bodySchema } from "../http/openApi";
import { MachinesService } from "../machines/machines.service";
import { RunsService } from "./runs.service";

@ApiTags("machines")
@Controller("api/machines")
export class MachinesController {
  constructor(
    @Inject(MachinesService) private readonly machines: MachinesService,
    @Inject(RunsService) private readonly runs: RunsService,
  ) {}

  @Get()
  @ApiOperation({ summary: "The shop's machines, each with the runs that wait or are at work" })
  list(): Promise<MachineView[]> {
    return this.runs.all();
  }

  @Delete(":key")
  @HttpCode(204)
  @ApiOperation({ summary: "Remove a machine; 409 while runs wait or are at work there" })
  remove(@Param("key") key: string): Promise<void> {
    return this.machines.remove(key);
  }

  @Put()
  @bodySchema("SaveMachine")
  @ApiOperation({ summary: "Change a machine, or add one; 409 if somebody else changed it meanwhile" })
  async save(@Body() machine: SaveMachine): Promise<MachineView> {
    return this.runs.view(await this.machines.save(machine));
  }
}

import { NewBatch, type BatchItemView, type BatchView } from "@hardline/contract";
import { Body, Controller, Get, HttpCode, Inject, Param, Post, Query, Res } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { BatchesService } from "./batches.service";

@ApiTags("batches")
@Controller("api/batches")
export class BatchesController {
  constructor(@Inject(BatchesService) private readonly batches: BatchesService) {}

  @Get()
  list(): Promise<BatchView[]> {
    return this.batches.list();
  }

  @Post()
  @bodySchema("NewBatch")
  @ApiOperation({
    summary: "Run a house route over many pictures or lines of text, on as many workers as there are",
  })
  create(@Body() batch: NewBatch): Promise<BatchView> {
    return this.batches.create(batch);
  }

  @Get(":id")
  get(@Param("id", IdPipe) id: string): Promise<BatchView> {
    return this.batches.get(id);
  }

  @Get(":id/items")
  items(@Param("id", IdPipe) id: string): Promise<BatchItemView[]> {
    return this.batches.items(id);
  }

  @Post(":id/stop")
  @HttpCode(200)
  stop(@Param("id", IdPipe) id: string): Promise<BatchView> {
    return this.batches.stop(id);
  }

  @Post(":id/resume")
  @HttpCode(200)
  @ApiOperation({ summary: "Go on with what was stopped; ?failed=1: with what failed too" })
  resume(@Param("id", IdPipe) id: string, @Query("failed") failed?: string): Promise<BatchView> {
    return this.batches.resume(id, failed === "1");
  }

  @Get(":id/zip")
  async zip(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { name, bytes } = await this.batches.zip(id);
    response.attachment(name).type("application/zip");
    await pipeline(bytes, response);
  }
}

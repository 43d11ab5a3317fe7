import { NewStrip, type StripView } from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Res } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { BlobStore } from "../blobs/blob.store";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { StripsService } from "./strips.service";

@ApiTags("test strips")
@Controller("api")
export class StripsController {
  constructor(
    @Inject(StripsService) private readonly strips: StripsService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  @Get("tickets/:id/strips")
  @ApiOperation({ summary: "Test strips kept on a ticket, newest first" })
  list(@Param("id", IdPipe) id: string): Promise<StripView[]> {
    return this.strips.list(id);
  }

  @Post("tickets/:id/strips")
  @bodySchema("NewStrip")
  create(@Param("id", IdPipe) id: string, @Body() strip: NewStrip): Promise<StripView> {
    return this.strips.create(id, strip);
  }

  @Delete("strips/:id")
  @HttpCode(204)
  remove(@Param("id", IdPipe) id: string): Promise<void> {
    return this.strips.remove(id);
  }

  @Get("strips/:id/picture")
  async picture(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const sha256 = await this.strips.picture(id);
    response.set({ "Content-Type": "image/png", "Cache-Control": "private, max-age=86400, immutable" });
    await pipeline(this.blobs.stream(sha256), response);
  }
}

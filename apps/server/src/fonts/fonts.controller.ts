import { type FontView } from "@hardline/contract";
import { Controller, Delete, Get, HttpCode, Inject, Param, Post, Req, Res } from "@nestjs/common";
import { ApiConsumes, ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Request, type Response } from "express";
import { rm } from "node:fs/promises";
import { receive } from "../artworks/arrival";
import { Decoding } from "../decoding/decoding.service";
import { FontsService, MEDIA_TYPE } from "./fonts.service";
import { KeyPipe } from "../http/key.pipe";

const FOREVER = "private, max-age=31536000, immutable";

@ApiTags("fonts")
@Controller("api/fonts")
export class FontsController {
  constructor(
    @Inject(FontsService) private readonly fonts: FontsService,
    @Inject(Decoding) private readonly decoding: Decoding,
  ) {}

  @Get()
  @ApiOperation({ summary: "Fonts that words can be set in: those that ship, then the shop's own" })
  list(): Promise<FontView[]> {
    return this.fonts.list();
  }

  @Post()
  @ApiConsumes("application/octet-stream")
  @ApiOperation({ summary: "Take in a font of the shop's own: the request body is its OTF or TTF file" })
  async add(@Req() request: Request): Promise<FontView> {
    const folder = await this.decoding.workFolder();
    try {
      const { path, sha256, bytes } = await receive(request, folder);
      return await this.fonts.add(path, sha256, bytes);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  @Delete(":key")
  @HttpCode(204)
  @ApiOperation({ summary: "No longer offer a font of the shop's own; routes that use it keep it" })
  remove(@Param("key", KeyPipe) key: string): Promise<void> {
    return this.fonts.retire(key);
  }

  @Get(":key/file")
  @ApiOperation({ summary: "A font's file" })
  async file(@Param("key", KeyPipe) key: string, @Res() response: Response): Promise<void> {
    const bytes = await this.fonts.bytes(key);
    response.set({ "Content-Type": MEDIA_TYPE, "Cache-Control": FOREVER });
    response.send(Buffer.from(bytes));
  }
}

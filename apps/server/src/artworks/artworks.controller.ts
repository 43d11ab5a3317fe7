import { MOST_ARTWORK_BYTES, type ArtworkView } from "@hardline/contract";
import { Controller, Get, Inject, Param, Post, Query, Req, Res } from "@nestjs/common";
import { ApiConsumes, ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Request, type Response } from "express";
import { pipeline } from "node:stream/promises";
import { BlobStore } from "../blobs/blob.store";
import { IdPipe } from "../http/id.pipe";
import { ProblemException } from "../http/problems";
import { ArtworksService } from "./artworks.service";

const FOREVER = "private, max-age=31536000, immutable";
const LARGEST_DRAWING = 20000;

@ApiTags("artworks")
@Controller("api/artworks")
export class ArtworksController {
  constructor(
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  @Post()
  @ApiConsumes("application/octet-stream")
  @ApiOperation({ summary: "Take in an artwork: the request body is the file itself, `name` its name" })
  async add(@Req() request: Request, @Query("name") name?: string): Promise<ArtworkView> {
    return this.artworks.add(await bodyOf(request), String(name ?? "artwork"));
  }

  @Get(":id/original")
  @ApiOperation({ summary: "The file, byte for byte as it was supplied" })
  async original(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { sha256, media_type, name, bytes } = await this.artworks.row(id);
    response.attachment(name);
    response.set({ "Content-Type": media_type, "Content-Length": String(bytes), "Cache-Control": FOREVER });
    await pipeline(this.blobs.stream(sha256), response);
  }

  @Get(":id/pixels")
  @ApiOperation({
    summary: "The picture as a lossless PNG: upright, 8-bit sRGB; shapes drawn `width` pixels wide",
  })
  async pixels(
    @Param("id", IdPipe) id: string,
    @Res() response: Response,
    @Query("width") width?: string,
  ): Promise<void> {
    const drawWidth = width === undefined ? undefined : Number(width);
    if (
      drawWidth !== undefined &&
      !(Number.isInteger(drawWidth) && drawWidth >= 1 && drawWidth <= LARGEST_DRAWING)
    ) {
      throw new ProblemException(
        400,
        "Not valid",
        `width is ${width}; allowed: a whole number 1 to ${LARGEST_DRAWING}`,
      );
    }
    const png = await this.artworks.pixelsPng(id, drawWidth);
    response.set({ "Content-Type": "image/png", "Cache-Control": FOREVER });
    await pipeline(png, response);
  }

  @Get(":id/thumbnail")
  async thumbnail(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { thumbnail_sha256 } = await this.artworks.row(id);
    response.set({ "Content-Type": "image/png", "Cache-Control": FOREVER });
    await pipeline(this.blobs.stream(thumbnail_sha256), response);
  }
}

/** The request's body, refused as soon as it exceeds what is taken. */
async function bodyOf(request: Request): Promise<Buffer> {
  const tooLarge = (bytes: number) =>
    new ProblemException(
      413,
      "Artwork too large",
      `The file has ${(bytes / 1048576).toFixed(0)} MB; 200 MB or less is taken.`,
    );
  const announced = Number(request.headers["content-length"] ?? 0);
  if (announced > MOST_ARTWORK_BYTES) {
    request.resume();
    throw tooLarge(announced);
  }
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > MOST_ARTWORK_BYTES) throw tooLarge(bytes);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

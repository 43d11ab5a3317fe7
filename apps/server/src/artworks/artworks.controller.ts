import { MOST_ARTWORK_SIDE, type ArrivalView, type ArtworkView } from "@hardline/contract";
import { Controller, Get, Inject, Param, Post, Query, Req, Res } from "@nestjs/common";
import { ApiConsumes, ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Request, type Response } from "express";
import { rm } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { BlobStore } from "../blobs/blob.store";
import { Decoding } from "../decoding/decoding.service";
import { IdPipe } from "../http/id.pipe";
import { ProblemException } from "../http/problems";
import { receive } from "./arrival";
import { ArrivalsService } from "./arrivals.service";
import { ArtworksService } from "./artworks.service";

const FOREVER = "private, max-age=31536000, immutable";

@ApiTags("artworks")
@Controller("api/artworks")
export class ArtworksController {
  constructor(
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(ArrivalsService) private readonly arrivals: ArrivalsService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(Decoding) private readonly decoding: Decoding,
  ) {}

  @Post()
  @ApiConsumes("application/octet-stream")
  @ApiOperation({
    summary:
      "Take in an artwork: the request body is the file itself, `name` its name. 202, with an arrival to follow, for a picture so large that it takes long",
  })
  async add(
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
    @Query("name") name?: string,
  ): Promise<ArtworkView | ArrivalView> {
    const folder = await this.decoding.workFolder();
    try {
      const arrived = await receive(request, folder);
      const called = String(name ?? "artwork");
      const artwork = await this.artworks.addIfQuick(arrived, called);
      if (artwork) return artwork;
      const arrival = await this.arrivals.putOff(arrived, called);
      response.status(202).location(`/api/arrivals/${arrival.id}`);
      return arrival;
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  @Get(":id/original")
  @ApiOperation({ summary: "The file, byte for byte as it was supplied" })
  async original(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { sha256, mediaType, name, bytes } = await this.artworks.row(id);
    response.attachment(name);
    response.set({ "Content-Type": mediaType, "Content-Length": String(bytes), "Cache-Control": FOREVER });
    await pipeline(this.blobs.stream(sha256), response);
  }

  @Get(":id/pixels")
  @ApiOperation({
    summary:
      "The picture as a lossless PNG: upright, 8-bit sRGB; shapes drawn `width` pixels wide; or halved so many times, for a first look",
  })
  async pixels(
    @Param("id", IdPipe) id: string,
    @Res() response: Response,
    @Query("width") width?: string,
    @Query("halved") halved?: string,
  ): Promise<void> {
    if (halved !== undefined && width !== undefined)
      throw new ProblemException(400, "Not valid", "width and halved are both given; allowed: one of them");
    if (halved !== undefined) {
      const png = await this.artworks.halvedPng(id, Number(halved));
      response.set({ "Content-Type": "image/png", "Cache-Control": FOREVER });
      return pipeline(png, response);
    }
    const drawWidth = width === undefined ? undefined : Number(width);
    if (
      drawWidth !== undefined &&
      !(Number.isInteger(drawWidth) && drawWidth >= 1 && drawWidth <= MOST_ARTWORK_SIDE)
    ) {
      throw new ProblemException(
        400,
        "Not valid",
        `width is ${width}; allowed: a whole number 1 to ${MOST_ARTWORK_SIDE}`,
      );
    }
    const png = await this.artworks.pixelsPng(id, drawWidth);
    response.set({ "Content-Type": "image/png", "Cache-Control": FOREVER });
    await pipeline(png, response);
  }

  @Get(":id/thumbnail")
  async thumbnail(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { thumbnailSha256 } = await this.artworks.row(id);
    response.set({ "Content-Type": "image/png", "Cache-Control": FOREVER });
    await pipeline(this.blobs.stream(thumbnailSha256), response);
  }
}

import {
  ChosenPage,
  MOST_ARTWORK_SIDE,
  PAGE_BOXES,
  type ArrivalView,
  type ArtworkPaths,
  type ArtworkView,
  type PageView,
} from "@hardline/contract";
import { Body, Controller, Get, HttpCode, Inject, Param, Post, Query, Req, Res } from "@nestjs/common";
import { ApiConsumes, ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Request, type Response } from "express";
import { rm } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { BlobStore } from "../blobs/blob.store";
import { Decoding } from "../decoding/decoding.service";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
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
    const { fileSha256, mediaType, name, bytes } = await this.artworks.row(id);
    response.attachment(name);
    response.set({ "Content-Type": mediaType, "Content-Length": String(bytes), "Cache-Control": FOREVER });
    await pipeline(this.blobs.stream(fileSha256), response);
  }

  @Get(":id/pages")
  @ApiOperation({
    summary: "The pages of the file that the artwork is of, and what each of their edges encloses",
  })
  pages(@Param("id", IdPipe) id: string): Promise<readonly PageView[]> {
    return this.artworks.pages(id);
  }

  @Get(":id/paths")
  @ApiOperation({
    summary: "The paths of an artwork made of shapes, by layer and colour; what is cut along first",
  })
  paths(@Param("id", IdPipe) id: string): Promise<ArtworkPaths> {
    return this.artworks.paths(id);
  }

  @Post(":id/pages")
  @HttpCode(200)
  @bodySchema("ChosenPage")
  @ApiOperation({ summary: "A page of the artwork's file, as an artwork of its own" })
  choose(@Param("id", IdPipe) id: string, @Body() { page, box, layers }: ChosenPage): Promise<ArtworkView> {
    return this.artworks.choose(id, { page, box, ...(layers && { layers }) });
  }

  @Get(":id/pages/:page")
  @ApiOperation({ summary: "A small picture of a page" })
  async page(
    @Param("id", IdPipe) id: string,
    @Param("page") page: string,
    @Res() response: Response,
    @Query("box") box = "crop",
    @Query("layers") layers?: string | string[],
  ): Promise<void> {
    const known = PAGE_BOXES.find((b) => b === box);
    if (!known)
      throw new ProblemException(400, "Not valid", `box is ${box}; allowed: ${PAGE_BOXES.join(", ")}`);
    const png = await this.artworks.pagePicture(id, {
      ...{ page: Number(page), box: known },
      ...(layers !== undefined && { layers: [layers].flat().filter((name) => name !== "") }),
    });
    response.set({ "Content-Type": "image/png", "Cache-Control": FOREVER }).end(png);
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

import { HandOver, type RenderView } from "@hardline/contract";
import { Body, Controller, Get, Inject, Param, Post, Res, Sse, type MessageEvent } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { type Observable } from "rxjs";
import { BlobStore } from "../blobs/blob.store";
import { followed } from "../http/followed";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { RendersService } from "./renders.service";

const POLL_MS = 200;

@ApiTags("renders")
@Controller("api")
export class RendersController {
  constructor(
    @Inject(RendersService) private readonly renders: RendersService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  @Post("routes/:id/renders")
  @bodySchema("HandOver")
  @ApiOperation({
    summary: "Ask for the files of a route as it stands; 409 with the route when another revision was seen",
  })
  request(@Param("id", IdPipe) id: string, @Body() asked: HandOver): Promise<RenderView> {
    return this.renders.request(id, asked);
  }

  @Get("routes/:id/renders")
  list(@Param("id", IdPipe) id: string): Promise<RenderView[]> {
    return this.renders.ofRoute(id);
  }

  @Get("renders/:id")
  get(@Param("id", IdPipe) id: string): Promise<RenderView> {
    return this.renders.get(id);
  }

  @Sse("renders/:id/events")
  @ApiOperation({
    summary: "The render each time it changes, until it is done or failed (server-sent events)",
  })
  events(@Param("id", IdPipe) id: string): Observable<MessageEvent> {
    return followed({
      read: () => this.renders.get(id),
      seen: ({ state, progress, doing }) => `${state} ${progress} ${doing}`,
      ended: ({ state }) => state !== "waiting" && state !== "running",
      everyMs: POLL_MS,
    });
  }

  @Get("renders/:id/files/:name")
  async file(
    @Param("id", IdPipe) id: string,
    @Param("name") name: string,
    @Res() response: Response,
  ): Promise<void> {
    const { sha256, mediaType, bytes } = await this.renders.file(id, name);
    response.attachment(name).set({ "Content-Type": mediaType, "Content-Length": String(bytes) });
    await pipeline(this.blobs.stream(sha256), response);
  }

  @Get("renders/:id/zip")
  async zip(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { name, bytes } = await this.renders.zip(id);
    response.attachment(name).type("application/zip");
    await pipeline(bytes, response);
  }
}

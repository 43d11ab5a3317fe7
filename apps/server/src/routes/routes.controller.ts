import { Findings, NewRoute, OnVersion, SaveRoute, type RouteView } from "@hardline/contract";
import { readRoute } from "@hardline/core/route/route";
import { Body, Controller, Get, HttpCode, Inject, Param, Post, Put, Res } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { BlobStore } from "../blobs/blob.store";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { RoutesService } from "./routes.service";

@ApiTags("routes")
@Controller("api")
export class RoutesController {
  constructor(
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  @Post("tickets/:id/routes")
  @bodySchema("NewRoute")
  @ApiOperation({ summary: "Add a route to a ticket" })
  create(@Param("id", IdPipe) id: string, @Body() { route }: NewRoute): Promise<RouteView> {
    return this.routes.create(id, readRoute(route));
  }

  @Get("routes/:id")
  get(@Param("id", IdPipe) id: string): Promise<RouteView> {
    return this.routes.get(id);
  }

  @Put("routes/:id")
  @bodySchema("SaveRoute")
  @ApiOperation({
    summary: "Save as the next revision; 409 with the route as it stands if it changed meanwhile",
  })
  save(@Param("id", IdPipe) id: string, @Body() { version, route }: SaveRoute): Promise<RouteView> {
    return this.routes.save(id, version, readRoute(route));
  }

  @Post("routes/:id/undo")
  @HttpCode(200)
  @bodySchema("OnVersion")
  undo(@Param("id", IdPipe) id: string, @Body() { version }: OnVersion): Promise<RouteView> {
    return this.routes.undo(id, version);
  }

  @Post("routes/:id/redo")
  @HttpCode(200)
  @bodySchema("OnVersion")
  redo(@Param("id", IdPipe) id: string, @Body() { version }: OnVersion): Promise<RouteView> {
    return this.routes.redo(id, version);
  }

  @Put("routes/:id/findings")
  @HttpCode(204)
  @bodySchema("Findings")
  find(@Param("id", IdPipe) id: string, @Body() findings: Findings): Promise<void> {
    return this.routes.find(id, findings);
  }

  @Get("routes/:id/thumbnail")
  async thumbnail(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const sha256 = await this.routes.thumbnail(id);
    response.set({ "Content-Type": "image/png", "Cache-Control": "private, max-age=60" });
    await pipeline(this.blobs.stream(sha256), response);
  }
}

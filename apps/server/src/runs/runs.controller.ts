import { NewRun, QueuePlace, type MachineView, type RunView } from "@hardline/contract";
import {
  Body,
  Controller,
  Get,
  HttpCode,
  Inject,
  Param,
  Post,
  Query,
  Res,
  Sse,
  type MessageEvent,
} from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { type Observable } from "rxjs";
import { BlobStore } from "../blobs/blob.store";
import { IdPipe } from "../http/id.pipe";
import { followed } from "../http/followed";
import { bodySchema } from "../http/openApi";
import { notFound } from "../http/problems";
import { RunsService } from "./runs.service";
import { RunsStore } from "./runs.store";

const POLL_MS = 200;
const ENDED = ["done", "stopped", "failed"];

@ApiTags("runs")
@Controller("api")
export class RunsController {
  constructor(
    @Inject(RunsService) private readonly runs: RunsService,
    @Inject(RunsStore) private readonly store: RunsStore,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  @Post("runs")
  @bodySchema("NewRun")
  @ApiOperation({ summary: "Have a program made of a route or a sheet, to be looked at before it is sent" })
  create(@Body() run: NewRun): Promise<RunView> {
    return this.runs.create(run);
  }

  @Get("runs")
  recent(): Promise<RunView[]> {
    return this.runs.recent();
  }

  @Get("tickets/:id/runs")
  ofTicket(@Param("id", IdPipe) id: string): Promise<RunView[]> {
    return this.runs.ofTicket(id);
  }

  @Get("sheets/:id/runs")
  ofSheet(@Param("id", IdPipe) id: string): Promise<RunView[]> {
    return this.runs.ofSheet(id);
  }

  @Get("runs/:id")
  get(@Param("id", IdPipe) id: string): Promise<RunView> {
    return this.runs.get(id);
  }

  @Sse("runs/:id/events")
  @ApiOperation({ summary: "The run each time it changes, until it has ended (server-sent events)" })
  events(@Param("id", IdPipe) id: string): Observable<MessageEvent> {
    return followed({
      read: () => this.runs.get(id),
      seen: ({ state, progress, executed, error }) => `${state} ${progress} ${executed} ${error}`,
      ended: ({ state }) => ENDED.includes(state),
      everyMs: POLL_MS,
    });
  }

  @Post("runs/:id/queue")
  @HttpCode(200)
  @ApiOperation({ summary: "Send it: into its machine's queue" })
  queue(@Param("id", IdPipe) id: string): Promise<RunView> {
    return this.runs.queue(id);
  }

  @Post("runs/:id/pause")
  @HttpCode(200)
  @ApiOperation({
    summary: "Beam off at once. Answered by what the machine did: pausing, with why, when it does not hear",
  })
  pause(@Param("id", IdPipe) id: string): Promise<RunView> {
    return this.runs.pause(id);
  }

  @Post("runs/:id/resume")
  @HttpCode(200)
  @ApiOperation({
    summary: "Go on with a run that is paused, or held after a lost line, without doing a line twice",
  })
  resume(@Param("id", IdPipe) id: string): Promise<RunView> {
    return this.runs.resume(id);
  }

  @Post("runs/:id/stop")
  @HttpCode(200)
  @ApiOperation({
    summary:
      "Beam off, and the run is over. Answered by what the machine did: stopping, with why, when it does not hear",
  })
  stop(@Param("id", IdPipe) id: string): Promise<RunView> {
    return this.runs.stop(id);
  }

  @Post("runs/:id/put-away")
  @HttpCode(200)
  @ApiOperation({
    summary: "Take a run off a machine that never said that it has stopped, after somebody looked",
  })
  putAway(@Param("id", IdPipe) id: string): Promise<RunView> {
    return this.runs.putAway(id);
  }

  @Post("runs/:id/again")
  @ApiOperation({ summary: "One pass once more, as a run of its own" })
  again(@Param("id", IdPipe) id: string, @Query("pass") pass: string): Promise<RunView> {
    return this.runs.again(id, pass);
  }

  @Post("runs/:id/place")
  @HttpCode(200)
  @bodySchema("QueuePlace")
  move(@Param("id", IdPipe) id: string, @Body() place: QueuePlace): Promise<MachineView> {
    return this.runs.move(id, place);
  }

  @Get("runs/:id/program")
  @ApiOperation({ summary: "The very bytes that are sent" })
  async program(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { programSha256, sentSha256, plan } = await this.store.row(id);
    await this.stream(response, sentSha256 ?? programSha256, plan?.mediaType ?? "", `program of run ${id}`);
  }

  @Get("runs/:id/photo")
  @ApiOperation({ summary: "What lies burned on a simulated machine, as a hand-held camera sees it" })
  async photo(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    response
      .attachment(`run-${id}-photo.png`)
      .type("image/png")
      .send(await this.runs.photo(id));
  }

  @Get("runs/:id/burned")
  @ApiOperation({ summary: "What the machine made of the bitmap: 1-bit PNG, 0 = burned" })
  async burned(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    await this.stream(
      response,
      (await this.store.row(id)).burnedSha256,
      "image/png",
      `burned picture of run ${id}`,
    );
  }

  private async stream(response: Response, sha256: string | null, type: string, what: string): Promise<void> {
    if (!sha256) throw notFound("such thing yet:", what);
    response.type(type);
    await pipeline(this.blobs.stream(sha256), response);
  }
}

import { type ArrivalView } from "@hardline/contract";
import { Controller, Get, Inject, Param, Sse, type MessageEvent } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Observable } from "rxjs";
import { followed } from "../http/followed";
import { IdPipe } from "../http/id.pipe";
import { ArrivalsService } from "./arrivals.service";

const POLL_MS = 300;

@ApiTags("artworks")
@Controller("api/arrivals")
export class ArrivalsController {
  constructor(@Inject(ArrivalsService) private readonly arrivals: ArrivalsService) {}

  @Get(":id")
  @ApiOperation({
    summary: "A large picture that is being taken in: how far it is, and its artwork once it is there",
  })
  get(@Param("id", IdPipe) id: string): Promise<ArrivalView> {
    return this.arrivals.get(id);
  }

  @Sse(":id/events")
  @ApiOperation({ summary: "The arrival each time it changes, until it has ended (server-sent events)" })
  events(@Param("id", IdPipe) id: string): Observable<MessageEvent> {
    return followed({
      read: () => this.arrivals.get(id),
      seen: ({ state, progress, doing }) => `${state} ${progress} ${doing}`,
      ended: ({ state }) => state !== "waiting" && state !== "running",
      everyMs: POLL_MS,
    });
  }
}

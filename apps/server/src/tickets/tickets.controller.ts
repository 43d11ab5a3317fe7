import {
  NewTicket,
  TicketChange,
  type TicketCounts,
  type TicketsView,
  type TicketView,
} from "@hardline/contract";
import { Body, Controller, Get, HttpCode, Inject, Param, Patch, Post, Query } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { bodySchema } from "../http/openApi";
import { IdPipe } from "../http/id.pipe";
import { askedOf, wordsOf } from "./asked";
import { TicketsService } from "./tickets.service";

@ApiTags("tickets")
@Controller("api/tickets")
export class TicketsController {
  constructor(@Inject(TicketsService) private readonly tickets: TicketsService) {}

  @Get()
  @ApiOperation({
    summary:
      "A stretch of the board: of one `state` or all, in an `order`, with the words of `find`, from `after` on",
  })
  list(
    @Query("state") state?: string,
    @Query("order") order?: string,
    @Query("find") find?: string,
    @Query("route") route?: string,
    @Query("customer") customer?: string,
    @Query("after") after?: string,
    @Query("most") most?: string,
  ): Promise<TicketsView> {
    return this.tickets.list(askedOf({ state, order, find, route, customer, after, most }));
  }

  @Get("counts")
  @ApiOperation({ summary: "How many tickets are in each state, of those with the words of `find`" })
  counts(@Query("find") find?: string): Promise<TicketCounts> {
    return this.tickets.counts(wordsOf(find));
  }

  @Get(":id")
  get(@Param("id", IdPipe) id: string): Promise<TicketView> {
    return this.tickets.get(id);
  }

  @Post()
  @bodySchema("NewTicket")
  create(@Body() ticket: NewTicket): Promise<TicketView> {
    return this.tickets.create(ticket);
  }

  @Patch(":id")
  @bodySchema("TicketChange")
  change(@Param("id", IdPipe) id: string, @Body() change: TicketChange): Promise<TicketView> {
    return this.tickets.change(id, change);
  }

  @Post(":id/archive")
  @HttpCode(200)
  archive(@Param("id", IdPipe) id: string): Promise<TicketView> {
    return this.tickets.archive(id, true);
  }

  @Post(":id/restore")
  @HttpCode(200)
  restore(@Param("id", IdPipe) id: string): Promise<TicketView> {
    return this.tickets.archive(id, false);
  }
}

import { NewTicket, TicketChange, type TicketView } from "@hardline/contract";
import { Body, Controller, Get, HttpCode, Inject, Param, Patch, Post, Query } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { bodySchema } from "../http/openApi";
import { IdPipe } from "../http/id.pipe";
import { TicketsService } from "./tickets.service";

@ApiTags("tickets")
@Controller("api/tickets")
export class TicketsController {
  constructor(@Inject(TicketsService) private readonly tickets: TicketsService) {}

  @Get()
  @ApiOperation({ summary: "The board; with `archived=true` the tickets put away" })
  list(@Query("archived") archived?: string): Promise<TicketView[]> {
    return this.tickets.list(archived === "true");
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

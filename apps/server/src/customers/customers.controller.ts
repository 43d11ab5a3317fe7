import {
  CustomerChange,
  NewCustomer,
  OrderAgain,
  type CustomerRecord,
  type CustomersView,
  type CustomerView,
  type OrderAgainView,
  type ReceiptView,
  type TicketView,
} from "@hardline/contract";
import { Body, Controller, Delete, Get, Inject, Param, Patch, Post, Query, Res } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { wordsOf } from "../tickets/asked";
import { CustomersService } from "./customers.service";
import { ExportService } from "./export.service";
import { OrderAgainService } from "./orderAgain.service";
import { RemovalService } from "./removal.service";

@ApiTags("customers")
@Controller("api")
export class CustomersController {
  constructor(
    @Inject(CustomersService) private readonly customers: CustomersService,
    @Inject(ExportService) private readonly exports: ExportService,
    @Inject(RemovalService) private readonly removal: RemovalService,
    @Inject(OrderAgainService) private readonly again: OrderAgainService,
  ) {}

  @Get("customers")
  @ApiOperation({ summary: "A stretch of the customers by name, with the words of `find`, from `after` on" })
  list(@Query("find") find?: string, @Query("after") after?: string): Promise<CustomersView> {
    return this.customers.list(wordsOf(find), after ?? null);
  }

  @Post("customers")
  @bodySchema("NewCustomer")
  add(@Body() customer: NewCustomer): Promise<CustomerView> {
    return this.customers.add(customer);
  }

  @Get("customers/:id")
  @ApiOperation({ summary: "A customer with artwork, own photographs and approvals" })
  record(@Param("id", IdPipe) id: string): Promise<CustomerRecord> {
    return this.customers.record(id);
  }

  @Patch("customers/:id")
  @bodySchema("CustomerChange")
  change(@Param("id", IdPipe) id: string, @Body() change: CustomerChange): Promise<CustomerView> {
    return this.customers.change(id, change);
  }

  @Get("customers/:id/export")
  @ApiOperation({ summary: "All that is kept of a customer, as an archive" })
  async export(@Param("id", IdPipe) id: string, @Res() response: Response): Promise<void> {
    const { name, bytes } = await this.exports.archive(id);
    response.attachment(name).type("application/zip");
    await pipeline(bytes, response);
  }

  @Delete("customers/:id")
  @ApiOperation({
    summary:
      "Remove all that is kept of a customer for good; answered with a receipt, told once. 409 while something is at a machine",
  })
  remove(@Param("id", IdPipe) id: string): Promise<ReceiptView> {
    return this.removal.remove(id);
  }

  @Get("tickets/:id/again")
  @ApiOperation({ summary: "What of a ticket can be another when it is ordered again" })
  offer(@Param("id", IdPipe) id: string): Promise<OrderAgainView> {
    return this.again.offer(id);
  }

  @Post("tickets/:id/again")
  @bodySchema("OrderAgain")
  @ApiOperation({ summary: "A new ticket with the artwork and the routes of an old one" })
  order(@Param("id", IdPipe) id: string, @Body() given: OrderAgain): Promise<TicketView> {
    return this.again.order(id, given);
  }
}

import { Controller, Get, Inject } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { sql } from "kysely";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { Database } from "./database/database.module";

/** How often the thread is looked at, in ms; what it is late beyond that is its delay. */
const LOOK_MS = 10;

/** How late the server's thread came to what waited, in ms. */
export interface DelaysView {
  readonly p99Ms: number;
  readonly mostMs: number;
}

@ApiTags("health")
@Controller("api/health")
export class HealthController {
  private readonly delays = monitorEventLoopDelay({ resolution: LOOK_MS });

  constructor(@Inject(Database) private readonly database: Database) {
    this.delays.enable();
  }

  @Get()
  @ApiOperation({ summary: "Answers when the server runs and its database answers" })
  async health(): Promise<{ status: "up" }> {
    await sql`select 1`.execute(this.database);
    return { status: "up" };
  }

  @Get("delays")
  @ApiOperation({
    summary: "How late the server's thread came to what waited, since this was asked for last",
  })
  since(): DelaysView {
    const late = (ns: number): number => Math.max(0, Math.round(ns / 1e5) / 10 - LOOK_MS);
    const view = { p99Ms: late(this.delays.percentile(99)), mostMs: late(this.delays.max) };
    this.delays.reset();
    return view;
  }
}

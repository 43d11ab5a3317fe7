import { type LoggerService } from "@nestjs/common";
import pino from "pino";

/** Structured log: one JSON object a line, on standard error so that standard output stays the user's. */
export const log = pino({ level: process.env.LOG_LEVEL ?? "warn" }, pino.destination(2));

/** Nest's own messages, in the same log. */
export const nestLog: LoggerService = {
  log: (message: unknown, context?: string) => log.info({ context }, String(message)),
  warn: (message: unknown, context?: string) => log.warn({ context }, String(message)),
  error: (message: unknown, stack?: string, context?: string) =>
    log.error({ context, stack }, String(message)),
  debug: (message: unknown, context?: string) => log.debug({ context }, String(message)),
};

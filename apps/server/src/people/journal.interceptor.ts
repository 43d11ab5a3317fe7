import {
  type CallHandler,
  type ExecutionContext,
  Inject,
  Injectable,
  type NestInterceptor,
} from "@nestjs/common";
import { type Request } from "express";
import { concatMap, from, map, type Observable } from "rxjs";
import { doer } from "./acting";
import { JournalService } from "./journal.service";
import { OPERATIONS } from "./operations";
import { operationOf } from "./rights.guard";

/** What an answer may tell of what was done to what. */
interface Told {
  readonly id?: unknown;
  readonly name?: unknown;
  readonly ticketId?: unknown;
  readonly routeId?: unknown;
  readonly revision?: unknown;
  readonly machine?: unknown;
  readonly person?: { readonly name?: unknown };
  readonly body?: { readonly name?: unknown };
}

/** Writes down what was done, once it was, by the words that the table of operations has for it. */
@Injectable()
export class JournalInterceptor implements NestInterceptor {
  constructor(@Inject(JournalService) private readonly journal: JournalService) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const request = context.switchToHttp().getRequest<Request>();
    const operation = operationOf(request);
    const words = OPERATIONS[operation]?.does;
    if (!words) return next.handle();
    const by = doer();
    return next
      .handle()
      .pipe(
        concatMap((answer: unknown) =>
          from(this.journal.note({ ...by, words, ...subjectOf(operation, request, answer) })).pipe(
            map(() => answer),
          ),
        ),
      );
  }
}

const text = (value: unknown): string | null => (typeof value === "string" && value !== "" ? value : null);
const id = (value: unknown): string | null =>
  (typeof value === "string" || typeof value === "number") && /^\d{1,18}$/.test(String(value))
    ? String(value)
    : null;

/** What an operation was done to: by its address, and by what it answered. */
function subjectOf(operation: string, { params }: Request, answer: unknown) {
  const told: Told = typeof answer === "object" && answer !== null ? answer : {};
  const of = (collection: string): string | null =>
    operation.includes(`/api/${collection}/{id}`)
      ? id(params.id)
      : operation === `POST /api/${collection}`
        ? id(told.id)
        : null;
  const machine = told.machine as { name?: unknown } | string | undefined;
  return {
    ticketId: of("tickets") ?? id(told.ticketId),
    routeId: of("routes") ?? id(told.routeId),
    revision: typeof told.revision === "number" ? told.revision : null,
    runId: of("runs"),
    customerId: of("customers"),
    subject: OPERATIONS[operation].namesNobody
      ? text(params.id)
      : (text(told.name) ??
        text(told.person?.name) ??
        (typeof machine === "object" ? text(machine.name) : null) ??
        text(params.key) ??
        null),
  };
}

import { type CallHandler, type ExecutionContext, Injectable, type NestInterceptor } from "@nestjs/common";
import { type Request, type Response } from "express";
import { type Observable, retry, throwError, timer } from "rxjs";
import { isAway } from "../database/away";

const TRIES = 4;
const FIRST_WAIT_MS = 60;

/**
 * Repeats a request when the database was away for a moment. Only requests that may run twice without harm are repeated: GET
 * only reads, PUT and PATCH set what is named. A POST is not repeated; its caller is told that it failed.
 */
@Injectable()
export class AskAgainInterceptor implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const request = context.switchToHttp().getRequest<Request>();
    const response = context.switchToHttp().getResponse<Response>();
    if (!["GET", "PUT", "PATCH"].includes(request.method)) return next.handle();
    return next.handle().pipe(
      retry({
        count: TRIES,
        delay: (error: unknown, count) =>
          isAway(error) && !response.headersSent
            ? timer(FIRST_WAIT_MS * 2 ** count)
            : throwError(() => error),
      }),
    );
  }
}

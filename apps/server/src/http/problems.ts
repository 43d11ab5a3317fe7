import { type Problem } from "@hardline/contract";
import { RouteError } from "@hardline/core/settings/errors";
import { IntakeError } from "@hardline/intake";
import {
  type BadRequestException,
  Catch,
  HttpException,
  type ArgumentsHost,
  type ExceptionFilter,
} from "@nestjs/common";
import { type ValidationError } from "class-validator";
import { type Request, type Response } from "express";
import { isAway, neverReached } from "../database/away";
import { log } from "../log/log";

/** A refusal with a title of its own and what more the caller should know. */
export class ProblemException extends HttpException {
  constructor(status: number, title: string, detail: string, more: Partial<Problem> = {}) {
    super({ title, detail, ...more }, status);
    this.message = detail; // where it is told to a person, not answered
  }
}

export const notFound = (what: string, id: string): ProblemException =>
  new ProblemException(404, "Not found", `There is no ${what} ${id}.`);

/** Turns what class-validator found into one refusal that lists every field. */
export function validationProblem(errors: readonly ValidationError[]): BadRequestException {
  const fields = errors.flatMap((e) =>
    Object.entries(e.constraints ?? { nested: "not valid" }).map(([rule, said]) => ({
      field: e.property,
      message: messageOf(e, rule, said),
    })),
  );
  return new ProblemException(400, "Not valid", fields.map((f) => f.message).join("; "), { errors: fields });
}

function messageOf({ property, value }: ValidationError, rule: string, said: string): string {
  if (rule === "isRead") return said;
  if (rule === "whitelistValidation") return `there is no field ${property}`;
  const given = value === undefined ? "missing" : JSON.stringify(value).slice(0, 80);
  return `${property} is ${given}; it ${said.replace(`${property} `, "")}`;
}

/** Every error leaves as RFC 9457 problem details. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    const request = host.switchToHttp().getRequest<Request>();
    const problem = problemOf(error);
    if (problem.status >= 500) log.error({ err: error, url: request.url }, problem.detail);
    if (response.headersSent || response.destroyed) {
      response.destroy();
      return;
    }
    sendProblem(request, response, problem);
  }
}

export function sendProblem(request: Request, response: Response, problem: Problem): void {
  if (problem.status === 503) response.set("Retry-After", "1");
  response
    .status(problem.status)
    .type("application/problem+json")
    .send(JSON.stringify({ ...problem, instance: request.url }));
}

function problemOf(error: unknown): Problem {
  if (error instanceof IntakeError)
    return { type: "about:blank", title: "Artwork not taken", status: 422, detail: error.message };
  if (error instanceof RouteError)
    return { type: "about:blank", title: "Route not valid", status: 422, detail: error.message };
  if (error instanceof HttpException) {
    const body = error.getResponse();
    const own = typeof body === "object" ? (body as Partial<Problem>) : {};
    const { title = error.message, detail = error.message, errors, current } = own;
    return { type: "about:blank", title, detail, status: error.getStatus(), errors, current };
  }
  const { code = "", message = "" } = error as { code?: string; message?: string };
  if ((code === "ECONNRESET" && message === "aborted") || code === "ERR_STREAM_PREMATURE_CLOSE") {
    return problem(
      400,
      "Broken off",
      "The connection was broken off before everything had arrived. Nothing was kept.",
    );
  }
  if (code === "53100" || code === "ENOSPC") {
    return problem(
      507,
      "Disk full",
      "The disk of the database is full. Nothing was changed; make room and try again.",
    );
  }
  if (isAway(error)) {
    return neverReached(error)
      ? problem(
          503,
          "Database away",
          "The database does not answer. Nothing was changed; try again in a moment.",
        )
      : problem(
          503,
          "Database away",
          "The connection to the database ended while this was at work. Look whether it was kept, then try again.",
        );
  }
  // What the parts before our own refuse (bodies, addresses) brings its status along.
  const { status } = error as { status?: unknown };
  if (typeof status === "number" && status >= 400 && status < 500) return refusalOf(status, error as Refused);
  // Values that the database cannot hold, should one come so far.
  if (/^22/.test(code)) return problem(400, "Not valid", `A value cannot be kept (${message}).`);
  return problem(500, "Fault", "Something went wrong in the server. It is in the log with this address.");
}

interface Refused {
  readonly type?: string;
  readonly message: string;
  readonly limit?: number;
}

function refusalOf(status: number, { type, message, limit }: Refused): Problem {
  if (type === "entity.too.large") {
    return problem(413, "Too large", `The body is larger than ${sizeText(limit ?? 0)}.`);
  }
  return problem(status, status === 404 ? "Not found" : "Not valid", message);
}

const sizeText = (bytes: number): string =>
  bytes >= 1048576 ? `${Math.round(bytes / 1048576)} MB` : `${Math.round(bytes / 1024)} kB`;

const problem = (status: number, title: string, detail: string): Problem => ({
  type: "about:blank",
  title,
  status,
  detail,
});

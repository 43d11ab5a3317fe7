import { type NextFunction, type Request, type Response } from "express";
import { ProblemException } from "./problems";

const DEEPEST = 32;
/** Nothing that is sent has nearly as many. */
const MOST_FIELDS = 200;

/**
 * Refuses JSON that no route or ticket is: nested beyond reason, or with letters that cannot be kept (a zero, halves of
 * a pair of surrogates). Walked without recursion, as it may be deep.
 */
export function checkBody(request: Request, _response: Response, next: NextFunction): void {
  const left: [value: unknown, depth: number][] = [[request.body, 0]];
  while (left.length > 0) {
    const [value, depth] = left.pop()!;
    if (typeof value === "string") {
      if (value.includes("\u0000") || !isWhole(value))
        throw notValid(`a text holds a letter that cannot be kept: ${JSON.stringify(value.slice(0, 60))}`);
    } else if (typeof value === "object" && value !== null && !Buffer.isBuffer(value)) {
      if (depth >= DEEPEST) throw notValid(`the body is nested deeper than ${DEEPEST}`);
      const entries = Object.entries(value);
      if (!Array.isArray(value) && entries.length > MOST_FIELDS)
        throw notValid(
          `an object of the body has ${entries.length} fields; ${MOST_FIELDS} or less are taken`,
        );
      for (const [key, inner] of entries) {
        if (typeof inner === "object" || typeof inner === "string") left.push([inner, depth + 1]);
        if (key.includes("\u0000") || !isWhole(key)) left.push([key, depth + 1]);
      }
    }
  }
  next();
}

const isWhole = (text: string): boolean => !/\p{Surrogate}/u.test(text);
const notValid = (detail: string): ProblemException => new ProblemException(400, "Not valid", detail);

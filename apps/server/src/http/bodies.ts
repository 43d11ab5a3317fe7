import express, { type NextFunction, type Request, type RequestHandler, type Response } from "express";
import { ProblemException } from "./problems";

const DEEPEST = 32;
/** Nothing that is sent has nearly as many. */
const MOST_FIELDS = 200;

/** What a body may be: its bytes, and the values in it (objects, lists, and what stands between commas). */
interface BodyLimit {
  readonly bytes: number;
  readonly objects: number;
  readonly values: number;
}

const KB = 1024;
const MB = 1024 * KB;
const USUAL: BodyLimit = { bytes: 64 * KB, objects: 500, values: 5000 };
/** A route with thousands of strokes has a few megabytes: many numbers, in few objects. */
const ROUTE: BodyLimit = { bytes: 8 * MB, objects: 60000, values: 1000000 };

/** Bodies that may be larger than usual, by method and address. */
const LARGER: readonly (readonly [method: string, path: RegExp, limit: BodyLimit])[] = [
  ["PUT", /^\/api\/routes\/[^/]+$/, ROUTE],
  ["POST", /^\/api\/tickets\/[^/]+\/routes$/, ROUTE],
  ["POST", /^\/api\/house-routes$/, ROUTE],
  // A photograph with what was painted on it.
  ["POST", /^\/api\/things$/, { bytes: 2 * MB, objects: 5000, values: 250000 }],
  ["PUT", /^\/api\/routes\/[^/]+\/findings$/, { bytes: 410 * KB, objects: 10, values: 100 }],
  ["POST", /^\/api\/tickets\/[^/]+\/strips$/, { bytes: 4 * MB, objects: 10, values: 100 }],
  // Five thousand items of three fields each, or of a few columns of a table.
  ["POST", /^\/api\/batches$/, { bytes: 4 * MB, objects: 10200, values: 80000 }],
  // Ten thousand copies of seven fields each, and as many as may be laid by hand.
  ["PUT", /^\/api\/sheets\/[^/]+$/, { bytes: 3 * MB, objects: 16000, values: 120000 }],
  ["POST", /^\/api\/sheets$/, { bytes: 1 * MB, objects: 6000, values: 50000 }],
];

/** Reads JSON bodies, each within what its address takes: a body is counted before it is parsed, and long before it is validated. */
export function readBodies(): RequestHandler {
  const readers = new Map<BodyLimit, RequestHandler>();
  const readerOf = (limit: BodyLimit): RequestHandler => {
    let reader = readers.get(limit);
    if (!reader) {
      const verify = (_request: unknown, _response: unknown, bytes: Buffer): void =>
        checkCounts(bytes, limit);
      readers.set(limit, (reader = express.json({ limit: limit.bytes, verify })));
    }
    return reader;
  };
  return (request, response, next) => {
    const { method, path } = request;
    readerOf(LARGER.find(([m, p]) => m === method && p.test(path))?.[2] ?? USUAL)(request, response, next);
  };
}

/** Counts the values of a text of JSON without parsing it. @throws ProblemException */
export function checkCounts(bytes: Uint8Array, { objects, values }: Omit<BodyLimit, "bytes">): void {
  let [open, all, inText] = [0, 1, false];
  for (let k = 0; k < bytes.length; k++) {
    const byte = bytes[k];
    if (inText) {
      if (byte === 0x5c) k++;
      else if (byte === 0x22) inText = false;
    } else if (byte === 0x22) inText = true;
    else if (byte === 0x7b) open++;
    else if (byte === 0x2c || byte === 0x5b) all++;
  }
  if (open > objects) throw tooMany(`${open} objects; ${objects} or less are taken here`);
  if (all > values) throw tooMany(`${all} values; ${values} or less are taken here`);
}

const tooMany = (has: string): ProblemException =>
  new ProblemException(413, "Too large", `The body has ${has}.`);

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
    } else if (Array.isArray(value)) {
      if (depth >= DEEPEST) throw notValid(`the body is nested deeper than ${DEEPEST}`);
      for (const inner of value)
        if (typeof inner === "object" || typeof inner === "string") left.push([inner, depth + 1]);
    } else if (typeof value === "object" && value !== null && !Buffer.isBuffer(value)) {
      if (depth >= DEEPEST) throw notValid(`the body is nested deeper than ${DEEPEST}`);
      const entries = Object.entries(value);
      if (entries.length > MOST_FIELDS)
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

import { type NextFunction, type Request, type RequestHandler, type Response } from "express";
import { isIP } from "node:net";
import { sendProblem } from "./problems";

const READS = new Set(["GET", "HEAD", "OPTIONS"]);
/** What a form of another site can send without being asked first is never what the product's own pages send. */
const OWN_BODIES = ["application/json", "application/octet-stream", "image/"];

/** The host a request was made to, without its port. */
const nameOf = (host: string): string =>
  host
    .replace(/:\d+$/, "")
    .replace(/^\[(.*)\]$/, "$1")
    .toLowerCase();

/**
 * Lets in who called the program by its own name, and lets write only pages of its own or programs. A page elsewhere
 * that got its name to point here calls it by that name; a page that writes across sites says where it is from.
 * A bare address cannot be made to point elsewhere, so each of the machine's is fine.
 *
 * @param names  by which the program may be called besides loopback and bare addresses
 */
export function checkVisitors(names: readonly string[]): RequestHandler {
  const known = new Set(["localhost", ...names.map((n) => n.toLowerCase())]);
  return (request: Request, response: Response, next: NextFunction) => {
    const host = request.headers.host ?? "";
    const name = nameOf(host);
    const refuse = (status: number, title: string, detail: string) => {
      request.resume();
      sendProblem(request, response, { type: "about:blank", title, status, detail });
    };
    if (isIP(name) === 0 && !known.has(name)) {
      return refuse(
        421,
        "Not here",
        `This is not ${JSON.stringify(name.slice(0, 100))}. Call it by its address, or name it in HARDLINE_HOSTS.`,
      );
    }
    if (READS.has(request.method)) return next();
    const { origin } = request.headers;
    const site = request.headers["sec-fetch-site"];
    const own = origin === undefined || origin === `${request.protocol}://${host}`;
    if (!own || (site !== undefined && site !== "same-origin" && site !== "none"))
      return refuse(403, "From elsewhere", "Only pages of this program may change anything here.");
    const body = request.headers["content-type"] ?? "";
    const empty =
      Number(request.headers["content-length"] ?? 0) === 0 && !request.headers["transfer-encoding"];
    if (!(body === "" && (empty || origin === undefined)) && !OWN_BODIES.some((b) => body.startsWith(b))) {
      return refuse(
        415,
        "Not taken",
        `The body is said to be ${JSON.stringify(body.slice(0, 100))}; JSON, or a picture, is taken.`,
      );
    }
    next();
  };
}

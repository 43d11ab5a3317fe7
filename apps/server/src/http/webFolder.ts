import { type NestExpressApplication } from "@nestjs/platform-express";
import { type NextFunction, type Request, type Response } from "express";
import { existsSync } from "node:fs";
import { join } from "node:path";
import sirv from "sirv";

/** Serves the built interface; every address that is not the API's and not a file is a page of it. */
export function serveWeb(app: NestExpressApplication, folder: string): void {
  const page = join(folder, "index.html");
  if (!existsSync(page)) return;
  // Their names are their hashes: what was loaded once is right for good. Texts lie there compressed as well.
  const assets = sirv(join(folder, "assets"), {
    immutable: true,
    maxAge: 31536000,
    brotli: true,
    gzip: true,
  });
  app.use("/assets", (request: Request, response: Response, next: NextFunction) => {
    if (!isWritten(request.path)) return next(refused(400, `${request.path} is no address.`));
    assets(request, response, () => next(refused(404, `There is no file ${request.path}.`)));
  });
  app.useStaticAssets(folder, { index: false });
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== "GET" || request.path.startsWith("/api")) return next();
    response.set("Cache-Control", "no-cache").sendFile(page);
  });
}

/** Told by the problem filter as whatever else is refused. */
const refused = (status: number, message: string): Error => Object.assign(new Error(message), { status });

/** Whether an address is written as one: every `%` is followed by the code of a letter. */
function isWritten(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}

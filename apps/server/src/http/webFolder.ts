import { type NestExpressApplication } from "@nestjs/platform-express";
import { type NextFunction, type Request, type Response } from "express";
import { existsSync } from "node:fs";
import { join } from "node:path";

/** Serves the built interface; every address that is not the API's and not a file is a page of it. */
export function serveWeb(app: NestExpressApplication, folder: string): void {
  const page = join(folder, "index.html");
  if (!existsSync(page)) return;
  app.useStaticAssets(join(folder, "assets"), {
    prefix: "/assets",
    immutable: true,
    maxAge: "1y",
    fallthrough: false,
  });
  app.useStaticAssets(folder, { index: false });
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (request.method !== "GET" || request.path.startsWith("/api")) return next();
    response.set("Cache-Control", "no-cache").sendFile(page);
  });
}

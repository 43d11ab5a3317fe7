import { NestFactory } from "@nestjs/core";
import { type NestExpressApplication } from "@nestjs/platform-express";
import { pinoHttp } from "pino-http";
import { AppModule } from "./app.module";
import { AskAgainInterceptor } from "./http/askAgain.interceptor";
import { BodyPipe } from "./http/body.pipe";
import { checkBody, readBodies } from "./http/bodies";
import { guardedHeaders } from "./http/headers";
import { log, nestLog } from "./log/log";
import { Identify } from "./people/identify";
import { describeApi } from "./http/openApi";
import { ProblemFilter } from "./http/problems";
import { checkVisitors } from "./http/visitors";
import { serveWeb } from "./http/webFolder";
import { Settings } from "./settings";

/** A client that leaves early is its own affair. */
const levelOf = (_request: unknown, { statusCode }: { statusCode: number }) =>
  statusCode >= 500 ? "error" : "debug";

/** An idle connection is closed after so long, in milliseconds: later than whoever asks gives it up, or a question may meet its end. */
const KEPT_OPEN_MS = 65_000;

/** What lets somebody in stands in no log. */
const SECRET = ["req.headers.cookie", "req.headers.authorization", 'res.headers["set-cookie"]'];

export async function createApp(): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule, {
    logger: nestLog,
    abortOnError: false,
    bodyParser: false,
    // Streams that somebody left open do not keep the program from ending.
    forceCloseConnections: true,
  });
  const settings = app.get(Settings);
  app.disable("x-powered-by");
  app.set("trust proxy", settings.proxies.length > 0 ? settings.proxies : false);
  app.use(pinoHttp({ logger: log, customLogLevel: levelOf, redact: SECRET }));
  app.use(guardedHeaders());
  app.use(checkVisitors([settings.host, ...settings.hosts]));
  app.use(await app.get(Identify).middleware());
  app.use(readBodies());
  app.use(checkBody);
  app.useGlobalInterceptors(new AskAgainInterceptor());
  app.useGlobalPipes(new BodyPipe());
  app.useGlobalFilters(new ProblemFilter());
  app.enableShutdownHooks();
  describeApi(app);
  serveWeb(app, settings.webFolder);
  app.getHttpServer().keepAliveTimeout = KEPT_OPEN_MS;
  return app;
}

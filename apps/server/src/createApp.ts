import { NestFactory } from "@nestjs/core";
import { type NestExpressApplication } from "@nestjs/platform-express";
import { pinoHttp } from "pino-http";
import { AppModule } from "./app.module";
import { AskAgainInterceptor } from "./http/askAgain.interceptor";
import { BodyPipe } from "./http/body.pipe";
import { checkBody, readBodies } from "./http/bodies";
import { guardedHeaders } from "./http/headers";
import { log, nestLog } from "./log/log";
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
  app.use(pinoHttp({ logger: log, customLogLevel: levelOf }));
  app.use(guardedHeaders());
  app.use(checkVisitors([settings.host, ...settings.hosts]));
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

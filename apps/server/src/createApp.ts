import { ValidationPipe } from "@nestjs/common";
import { NestFactory } from "@nestjs/core";
import { type NestExpressApplication } from "@nestjs/platform-express";
import { pinoHttp } from "pino-http";
import { AppModule } from "./app.module";
import { isolate } from "./http/isolation";
import { log, nestLog } from "./http/log";
import { describeApi } from "./http/openApi";
import { ProblemFilter, validationProblem } from "./http/problems";
import { serveWeb } from "./http/webFolder";
import { Settings } from "./settings";

export async function createApp(): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule, {
    logger: nestLog,
    abortOnError: false,
  });
  app.disable("x-powered-by");
  app.useBodyParser("json", { limit: "2mb" });
  app.use(isolate);
  app.use(pinoHttp({ logger: log }));
  app.useGlobalPipes(
    new ValidationPipe({
      whitelist: true,
      forbidNonWhitelisted: true,
      transform: true,
      exceptionFactory: validationProblem,
    }),
  );
  app.useGlobalFilters(new ProblemFilter());
  app.enableShutdownHooks();
  describeApi(app);
  serveWeb(app, app.get(Settings).webFolder);
  return app;
}

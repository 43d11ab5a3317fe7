import { Controller, Get, Inject, Module } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { sql } from "kysely";
import { ArtworksController } from "./artworks/artworks.controller";
import { ArtworksService } from "./artworks/artworks.service";
import { BlobStore } from "./blobs/blob.store";
import { Collector } from "./blobs/collector";
import { Database, DatabaseModule } from "./database/database.module";
import { Decoding } from "./decoding/decoding.service";
import { HouseRoutesController } from "./house/houseRoutes.controller";
import { HouseRoutesService } from "./house/houseRoutes.service";
import { MaterialsController } from "./house/materials.controller";
import { MaterialsService } from "./house/materials.service";
import { StripsController } from "./house/strips.controller";
import { StripsService } from "./house/strips.service";
import { RenderQueue } from "./renders/queue";
import { RendersController } from "./renders/renders.controller";
import { RendersService } from "./renders/renders.service";
import { RenderWorker } from "./renders/worker";
import { RoutesController } from "./routes/routes.controller";
import { RoutesService } from "./routes/routes.service";
import { TicketsController } from "./tickets/tickets.controller";
import { TicketsService } from "./tickets/tickets.service";

@ApiTags("health")
@Controller("api/health")
class HealthController {
  constructor(@Inject(Database) private readonly database: Database) {}

  @Get()
  @ApiOperation({ summary: "Answers when the server runs and its database answers" })
  async health(): Promise<{ status: "up" }> {
    await sql`select 1`.execute(this.database);
    return { status: "up" };
  }
}

@Module({ imports: [DatabaseModule], providers: [BlobStore, Collector], exports: [BlobStore] })
class BlobsModule {}

@Module({
  imports: [BlobsModule],
  controllers: [ArtworksController],
  providers: [ArtworksService, Decoding],
  exports: [ArtworksService, BlobsModule, Decoding],
})
class ArtworksModule {}

@Module({
  imports: [BlobsModule],
  controllers: [RoutesController],
  providers: [RoutesService],
  exports: [RoutesService],
})
class RoutesModule {}

@Module({
  imports: [ArtworksModule, RoutesModule],
  controllers: [TicketsController],
  providers: [TicketsService],
  exports: [TicketsService],
})
class TicketsModule {}

@Module({
  imports: [ArtworksModule, RoutesModule, TicketsModule],
  controllers: [RendersController],
  providers: [RenderQueue, RendersService, RenderWorker],
  exports: [RendersService],
})
class RendersModule {}

@Module({
  imports: [BlobsModule],
  controllers: [MaterialsController, HouseRoutesController, StripsController],
  providers: [MaterialsService, HouseRoutesService, StripsService],
})
class HouseModule {}

@Module({
  imports: [DatabaseModule, ArtworksModule, TicketsModule, RoutesModule, RendersModule, HouseModule],
  controllers: [HealthController],
})
export class AppModule {}

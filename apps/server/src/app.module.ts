import { Global, Module } from "@nestjs/common";
import { APP_GUARD, APP_INTERCEPTOR } from "@nestjs/core";
import { ArrivalsController } from "./artworks/arrivals.controller";
import { ArrivalsService } from "./artworks/arrivals.service";
import { ArtworksController } from "./artworks/artworks.controller";
import { ArtworksService } from "./artworks/artworks.service";
import { BlobStore } from "./blobs/blob.store";
import { Collector } from "./blobs/collector";
import { ChangesController } from "./changes/changes.controller";
import { ChangesService } from "./changes/changes.service";
import { DatabaseModule } from "./database/database.module";
import { Decoding } from "./decoding/decoding.service";
import { FontsController } from "./fonts/fonts.controller";
import { FontsService } from "./fonts/fonts.service";
import { HealthController } from "./health.controller";
import { HouseRoutesController } from "./houseRoutes/houseRoutes.controller";
import { HouseRoutesService } from "./houseRoutes/houseRoutes.service";
import { CommentsService } from "./history/comments.service";
import { HistoryController } from "./history/history.controller";
import { HistoryService } from "./history/history.service";
import { WatchService } from "./history/watch.service";
import { CustomersController } from "./customers/customers.controller";
import { CustomersService } from "./customers/customers.service";
import { ExportService } from "./customers/export.service";
import { OrderAgainService } from "./customers/orderAgain.service";
import { RemovalService } from "./customers/removal.service";
import { MaterialsController } from "./house/materials.controller";
import { MaterialsService } from "./house/materials.service";
import { StripsController } from "./house/strips.controller";
import { StripsService } from "./house/strips.service";
import { BatchesController } from "./batches/batches.controller";
import { BatchesService } from "./batches/batches.service";
import { Calculating } from "./calculating/calculating.service";
import { FloorClient } from "./machines/floorClient";
import { MachineLocks } from "./runs/machineLocks";
import { MachinesController } from "./runs/machines.controller";
import { MachinesService } from "./machines/machines.service";
import { MachineReach } from "./machines/reach";
import { RunQueue } from "./runs/runQueue";
import { RunsController } from "./runs/runs.controller";
import { RunsService } from "./runs/runs.service";
import { RunsStore } from "./runs/runs.store";
import { SendingService } from "./runs/sending";
import { BatchMaker } from "./making/batch.maker";
import { HandOverMaker } from "./making/handOver.maker";
import { PieceMaker } from "./making/piece.maker";
import { Pieces } from "./making/pieces";
import { ProgramMaker } from "./making/program.maker";
import { SheetMaker } from "./making/sheet.maker";
import { SheetsController } from "./sheets/sheets.controller";
import { SheetsService } from "./sheets/sheets.service";
import { WedgesService } from "./house/wedges.service";
import { RenderQueue } from "./renders/queue";
import { RendersController } from "./renders/renders.controller";
import { RendersService } from "./renders/renders.service";
import { RenderWorker } from "./making/worker";
import { DemoPeople } from "./people/demo";
import { Identify } from "./people/identify";
import { JournalInterceptor } from "./people/journal.interceptor";
import { JournalController } from "./people/journal.controller";
import { JournalService } from "./people/journal.service";
import { OwnController } from "./people/own.controller";
import { Passwords } from "./people/passwords";
import { PeopleController, TokensController } from "./people/people.controller";
import { PeopleService } from "./people/people.service";
import { RightsGuard } from "./people/rights.guard";
import { SessionController } from "./people/session.controller";
import { SessionService } from "./people/session.service";
import { Sessions } from "./people/sessions";
import { TokensService } from "./people/tokens.service";
import { Tries } from "./people/tries";
import { RoutesController } from "./routes/routes.controller";
import { RoutesService } from "./routes/routes.service";
import { PhotosController, PlacesController, ThingsController } from "./things/things.controller";
import { ThingsService } from "./things/things.service";
import { TicketsController } from "./tickets/tickets.controller";
import { TicketsService } from "./tickets/tickets.service";

@Module({ imports: [DatabaseModule], providers: [BlobStore, Collector], exports: [BlobStore] })
class BlobsModule {}

@Module({
  imports: [BlobsModule],
  controllers: [ArtworksController, ArrivalsController],
  providers: [ArtworksService, ArrivalsService, Decoding],
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
  imports: [ArtworksModule],
  controllers: [FontsController],
  providers: [FontsService],
  exports: [FontsService],
})
class FontsModule {}

@Module({
  imports: [ArtworksModule],
  controllers: [PhotosController, ThingsController, PlacesController],
  providers: [ThingsService],
  exports: [ThingsService],
})
class ThingsModule {}

@Global()
@Module({
  controllers: [SessionController, OwnController, PeopleController, TokensController, JournalController],
  providers: [
    ...[Passwords, Tries, Sessions, DemoPeople, Identify],
    ...[PeopleService, SessionService, TokensService, JournalService],
    { provide: APP_GUARD, useClass: RightsGuard },
    { provide: APP_INTERCEPTOR, useClass: JournalInterceptor },
  ],
  exports: [Identify, PeopleService, DemoPeople, JournalService],
})
class PeopleModule {}

@Module({ providers: [Calculating], exports: [Calculating] })
class CalculatingModule {}

@Module({
  providers: [MachinesService, MachineReach, RunsStore],
  exports: [MachinesService, MachineReach, RunsStore],
})
class MachineryModule {}

@Module({
  imports: [MachineryModule, CalculatingModule],
  providers: [SheetsService],
  exports: [SheetsService],
})
class SheetsModule {}

@Module({
  imports: [
    ArtworksModule,
    FontsModule,
    ThingsModule,
    RoutesModule,
    TicketsModule,
    SheetsModule,
    MachineryModule,
  ],
  controllers: [RendersController, SheetsController, BatchesController],
  providers: [
    RenderQueue,
    RendersService,
    RenderWorker,
    Pieces,
    HandOverMaker,
    PieceMaker,
    ProgramMaker,
    SheetMaker,
    BatchMaker,
    BatchesService,
  ],
  exports: [RendersService, BatchesService],
})
class RendersModule {}

@Module({
  imports: [
    ...[ArtworksModule, RoutesModule, TicketsModule, SheetsModule, MachineryModule, RendersModule],
    CalculatingModule,
  ],
  controllers: [MachinesController, RunsController],
  providers: [RunsService, RunQueue, MachineLocks, FloorClient, SendingService],
  exports: [RunsService],
})
class RunsModule {}

@Module({
  imports: [RoutesModule, BlobsModule],
  controllers: [HistoryController],
  providers: [HistoryService, CommentsService, WatchService],
})
class HistoryModule {}

@Module({
  imports: [TicketsModule, BlobsModule],
  controllers: [CustomersController],
  providers: [CustomersService, ExportService, OrderAgainService, RemovalService],
})
class CustomersModule {}

@Module({
  imports: [ArtworksModule, TicketsModule, RoutesModule, CalculatingModule],
  controllers: [MaterialsController, HouseRoutesController, StripsController],
  providers: [MaterialsService, WedgesService, HouseRoutesService, StripsService],
})
class HouseModule {}

@Module({
  imports: [
    DatabaseModule,
    PeopleModule,
    ArtworksModule,
    FontsModule,
    TicketsModule,
    RoutesModule,
    RendersModule,
    RunsModule,
    HouseModule,
    HistoryModule,
    CustomersModule,
  ],
  controllers: [HealthController, ChangesController],
  providers: [ChangesService],
})
export class AppModule {}

import { Global, Inject, Injectable, Module, type OnApplicationShutdown } from "@nestjs/common";
import { Kysely, Migrator, PostgresDialect } from "kysely";
import pg from "pg";
import { Settings } from "../settings";
import { migrations } from "./migrations";
import { type Schema } from "./schema";

export class Database extends Kysely<Schema> {}

pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text); // a day is a day, wherever the clock stands
pg.types.setTypeParser(20 /* bigint: counts of bytes, well below 2^53; ids are cast to text */, Number);

async function openDatabase(settings: Settings): Promise<Database> {
  const pool = new pg.Pool({ connectionString: settings.databaseUrl, max: 12 });
  // A connection that breaks while idle is replaced at the next query; without a listener it would end the program.
  pool.on("error", () => undefined);
  const database = new Database({ dialect: new PostgresDialect({ pool }) });
  const { error } = await new Migrator({ db: database, provider: migrations }).migrateToLatest();
  if (error) throw error;
  return database;
}

@Injectable()
class CloseDatabase implements OnApplicationShutdown {
  constructor(@Inject(Database) private readonly database: Database) {}

  async onApplicationShutdown(): Promise<void> {
    await this.database.destroy();
  }
}

@Global()
@Module({
  providers: [Settings, { provide: Database, useFactory: openDatabase, inject: [Settings] }, CloseDatabase],
  exports: [Settings, Database],
})
export class DatabaseModule {}

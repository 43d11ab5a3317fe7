import { Global, Inject, Injectable, Module, type OnApplicationShutdown } from "@nestjs/common";
import { CamelCasePlugin, Kysely, Migrator, PostgresDialect } from "kysely";
import pg from "pg";
import { log } from "../log/log";
import { Settings } from "../settings";
import { askAgain } from "./away";
import { migrations } from "./migrations";
import { type Schema } from "./schema";

/** Where a query is asked outside of Kysely. */
export const Pool = pg.Pool;

/** So long a program that starts waits for a database that is away. */
const WAIT_MS = 20_000;

export class Database extends Kysely<Schema> {}

pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text); // a day is a day, wherever the clock stands
pg.types.setTypeParser(20 /* bigint: counts of bytes, well below 2^53; ids are cast to text */, Number);

function openPool(settings: Settings): pg.Pool {
  const pool = new pg.Pool({
    connectionString: settings.databaseUrl,
    // A worker does one thing at a time, and there may be many of them.
    max: settings.role === "worker" ? 3 : 12,
    connectionTimeoutMillis: 5000,
    keepAlive: true,
  });
  // A connection that breaks is replaced at the next query, and what was at work on it fails by itself; without
  // listeners it would end the program, idle or in use.
  const broke = (error: Error) => log.warn({ err: error }, "a connection to the database ended");
  pool.on("error", broke);
  pool.on("connect", (client) => client.on("error", broke));
  return pool;
}

async function openDatabase(pool: pg.Pool): Promise<Database> {
  // Columns are called in words parted by `_`, and here as everything else is; what lies in them stays as it is.
  const plugins = [new CamelCasePlugin({ maintainNestedObjectKeys: true })];
  const database = new Database({ dialect: new PostgresDialect({ pool }), plugins });
  // Both may have been started at once.
  await askAgain(async () => {
    const { error } = await new Migrator({ db: database, provider: migrations }).migrateToLatest();
    if (error) throw error;
  }, WAIT_MS);
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
  providers: [
    Settings,
    { provide: Pool, useFactory: openPool, inject: [Settings] },
    { provide: Database, useFactory: openDatabase, inject: [Pool] },
    CloseDatabase,
  ],
  exports: [Settings, Pool, Database],
})
export class DatabaseModule {}

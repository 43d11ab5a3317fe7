import { type ArrivalView } from "@hardline/contract";
import { IntakeError } from "@hardline/intake";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { sql, type Selectable } from "kysely";
import { createWriteStream } from "node:fs";
import { rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { BlobStore } from "../blobs/blob.store";
import { isAway } from "../database/away";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { Decoding } from "../decoding/decoding.service";
import { log } from "../log/log";
import { notFound, ProblemException } from "../http/problems";
import { Settings } from "../settings";
import { ArtworksService, viewOf, type Arrived } from "./artworks.service";

type Row = Selectable<Schema["arrivals"]>;

const BEAT_MS = 500;
const MOST_ATTEMPTS = 3;
/** So many large files may wait. */
const MOST_WAITING = 16;

/**
 * Large pictures, which take half a minute to be taken in: the file is kept, whoever sent it is answered, and it is read
 * beside everything else, by whichever server is there. One whose server is lost is read by another.
 */
@Injectable()
export class ArrivalsService implements OnApplicationBootstrap, OnApplicationShutdown {
  private timer?: NodeJS.Timeout;
  private reading = false;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(Decoding) private readonly decoding: Decoding,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
  ) {}

  onApplicationBootstrap(): void {
    const { role, leaseSeconds } = this.settings;
    if (role === "worker" || role === "seed") return;
    this.timer = setInterval(() => void this.readNext(), leaseSeconds * 500);
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  /** Keeps a file that has arrived, and has it read. */
  async putOff({ path, sha256 }: Arrived, name: string): Promise<ArrivalView> {
    const { waiting } = await this.database
      .selectFrom("arrivals")
      .select((e) => e.fn.countAll<number>().as("waiting"))
      .where("state", "in", ["waiting", "running"])
      .executeTakeFirstOrThrow();
    if (Number(waiting) >= MOST_WAITING)
      throw new ProblemException(
        503,
        "Too much at once",
        `${waiting} large pictures wait to be read. Nothing was changed; try again in a moment.`,
      );
    await this.blobs.putFile(path, "application/octet-stream");
    const row = await this.database
      .insertInto("arrivals")
      .values({ sha256, name: name.slice(0, 200), state: "waiting" })
      .returningAll()
      .executeTakeFirstOrThrow();
    void this.readNext();
    return this.view(row);
  }

  async get(id: string): Promise<ArrivalView> {
    const row = await this.database
      .selectFrom("arrivals")
      .selectAll()
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("arrival", id);
    return this.view(row);
  }

  private async view(row: Row): Promise<ArrivalView> {
    const { id, name, state, progress, doing, error, artworkId } = row;
    const artwork = artworkId === null ? null : viewOf(await this.artworks.row(String(artworkId)));
    return { id: String(id), name, state, progress, doing, error, artwork };
  }

  /** Reads whatever waits, one after another. */
  private async readNext(): Promise<void> {
    if (this.reading) return;
    this.reading = true;
    try {
      for (let row = await this.claim(); row; row = await this.claim()) await this.read(row);
    } catch (error) {
      if (!isAway(error)) log.error({ err: error }, "large pictures");
    } finally {
      this.reading = false;
    }
  }

  /** The next that waits, or whose reader gives no sign of life any more. */
  private async claim(): Promise<Row | undefined> {
    return this.database
      .updateTable("arrivals")
      .set((e) => ({ state: "running", attempts: e("attempts", "+", 1), beatAt: sql<Date>`now()` }))
      .where(
        "id",
        "=",
        sql<string>`(select id from arrivals where state = 'waiting' or (state = 'running'
          and beat_at < now() - make_interval(secs => ${this.settings.leaseSeconds}))
          order by id limit 1 for update skip locked)`,
      )
      .returningAll()
      .executeTakeFirst();
  }

  private async read(row: Row): Promise<void> {
    const how = { progress: 0.02, doing: "reading the file" };
    const write = (values: Parameters<typeof this.set>[1]) => this.set(row, values);
    const beat = setInterval(() => {
      write({ ...how, beatAt: new Date() }).catch((error: unknown) =>
        log.warn({ err: error }, "sign of life"),
      );
    }, BEAT_MS);
    const folder = await this.decoding.workFolder();
    try {
      if (row.attempts > MOST_ATTEMPTS)
        throw new IntakeError(
          `The program ended ${MOST_ATTEMPTS} times while it was taken in. Save it smaller.`,
        );
      const path = join(folder, "artwork");
      await pipeline(this.blobs.stream(row.sha256), createWriteStream(path));
      const arrived = { path, bytes: (await stat(path)).size, sha256: row.sha256 };
      const { id } = await this.artworks.addLarge(arrived, row.name, (told) => Object.assign(how, told));
      await write({ state: "done", progress: 1, doing: "", artworkId: id });
    } catch (error) {
      if (isAway(error)) return; // whoever finds it next reads it again
      if (!(error instanceof IntakeError)) log.error({ err: error, arrival: row.id }, "large picture");
      await write({ state: "failed", doing: "", error: (error as Error).message });
    } finally {
      clearInterval(beat);
      await rm(folder, { recursive: true, force: true });
    }
  }

  /** Only while it is still this reader's. */
  private async set(
    { id, attempts }: Row,
    values: Partial<Pick<Row, "state" | "progress" | "doing" | "error" | "artworkId" | "beatAt">>,
  ): Promise<void> {
    await this.database
      .updateTable("arrivals")
      .set(values)
      .where("id", "=", String(id))
      .where("state", "=", "running")
      .where("attempts", "=", attempts)
      .execute();
  }
}

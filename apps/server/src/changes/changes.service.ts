import { LISTS, type ListName, type ListsChanged } from "@hardline/contract";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import pg from "pg";
import { asyncScheduler, defer, filter, map, Subject, tap, throttleTime, type Observable } from "rxjs";
import { log } from "../log/log";
import { Settings } from "../settings";

/** What the triggers of the tables call (migration 009): the payload is the list's name. */
const CHANNEL = "hard_line_changes";
/** Whoever looks is told no more often than this, in milliseconds: a run writes how far it is many times a second. */
const EVERY_MS = 1000;
/** A connection that was lost is opened again after so long, in milliseconds. */
const AGAIN_MS = 1000;

const isList = (name: string | undefined): name is ListName =>
  (LISTS as readonly (string | undefined)[]).includes(name);

/** Word from the database of what changed in the shop's lists, whichever server or worker changed it. */
@Injectable()
export class ChangesService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly told = new Subject<ListName>();
  private client: pg.Client | null = null;
  private again: NodeJS.Timeout | undefined;
  private ending = false;

  constructor(@Inject(Settings) private readonly settings: Settings) {}

  /** Heard before the server answers: whoever looks from then on is told of changes alone, not of the time before. */
  async onApplicationBootstrap(): Promise<void> {
    const { role } = this.settings;
    if (role === "both" || role === "server") await this.listen();
  }

  async onApplicationShutdown(): Promise<void> {
    this.ending = true;
    clearTimeout(this.again);
    this.told.complete();
    await this.client?.end().catch(() => {});
  }

  /** For one who looks: at once, and then at most once a second, with every list that changed since the last word. */
  changes(): Observable<ListsChanged> {
    return defer(() => {
      const changed = new Set<ListName>();
      return this.told.pipe(
        tap((list) => changed.add(list)),
        throttleTime(EVERY_MS, asyncScheduler, { leading: true, trailing: true }),
        map(() => {
          const lists = [...changed];
          changed.clear();
          return { lists };
        }),
        filter(({ lists }) => lists.length > 0),
      );
    });
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({ connectionString: this.settings.databaseUrl, keepAlive: true });
    this.client = client;
    client.on("error", (error) => log.warn({ err: error }, "the connection that hears of changes"));
    client.on("end", () => this.listenAgain());
    client.on("notification", ({ payload }) => isList(payload) && this.told.next(payload));
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
    } catch (error) {
      log.warn({ err: error }, "hearing of changes");
      await client.end().catch(() => {});
      this.listenAgain();
      return;
    }
    // What changed while nobody listened is not known.
    for (const list of LISTS) this.told.next(list);
  }

  private listenAgain(): void {
    clearTimeout(this.again);
    if (!this.ending) this.again = setTimeout(() => void this.listen(), AGAIN_MS);
  }
}

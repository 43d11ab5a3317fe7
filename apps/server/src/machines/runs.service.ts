import { type MachineView, type NewRun, type QueuePlace, type RunView } from "@hardline/contract";
import { runWish, USUAL_MATERIALS } from "@hardline/core";
import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import type pg from "pg";
import { BlobStore } from "../blobs/blob.store";
import { Pool } from "../database/database.module";
import { log } from "../http/log";
import { ProblemException } from "../http/problems";
import { RendersService } from "../renders/renders.service";
import { RoutesService } from "../routes/routes.service";
import { Settings } from "../settings";
import { SheetsService } from "../sheets/sheets.service";
import { TicketsService } from "../tickets/tickets.service";
import { MachinesService, type KnownMachine } from "./machines.service";
import { burnedGrid, RunDriver } from "./runDriver";
import { RunsStore, runView, type RunRow } from "./runs.store";

const LOOK_MS = 250;
/** Locks of machines are kept apart from others by this. */
const LOCKS = 7301;

/** What is asked of runs, and the queue of each machine. */
@Injectable()
export class RunsService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly drivers = new Map<string, RunDriver>();
  private timer?: NodeJS.Timeout;
  private looking = false;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(Pool) private readonly pool: pg.Pool,
    @Inject(RunsStore) private readonly runs: RunsStore,
    @Inject(MachinesService) private readonly machines: MachinesService,
    @Inject(RendersService) private readonly renders: RendersService,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(SheetsService) private readonly sheets: SheetsService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  onApplicationBootstrap(): void {
    const { role } = this.settings;
    if (role === "worker" || role === "seed") return;
    this.timer = setInterval(() => void this.look(), LOOK_MS);
  }

  onApplicationShutdown(): void {
    clearInterval(this.timer);
  }

  async all(): Promise<MachineView[]> {
    return Promise.all((await this.machines.list()).map((known) => this.view(known)));
  }

  async view(known: KnownMachine): Promise<MachineView> {
    return { ...known, queue: (await this.runs.queueOf(known.machine.key)).map(runView) };
  }

  async get(id: string): Promise<RunView> {
    return runView(await this.runs.row(id));
  }

  async recent(): Promise<RunView[]> {
    return (await this.runs.recent()).map(runView);
  }

  async ofTicket(ticketId: string): Promise<RunView[]> {
    return (await this.runs.ofTicket(ticketId)).map(runView);
  }

  async ofSheet(sheetId: string): Promise<RunView[]> {
    return (await this.runs.ofSheet(sheetId)).map(runView);
  }

  /** Has the program of a route, or of a sheet, made for a machine. */
  async create({ machine, routeId, sheetId, sheet = 1, wish }: NewRun): Promise<RunView> {
    const known = await this.machines.get(machine);
    const own = routeId
      ? await this.ofRoute(routeId)
      : sheetId
        ? await this.ofOneSheet(sheetId, sheet)
        : null;
    if (!own)
      throw new ProblemException(
        400,
        "Not valid",
        "routeId is missing, and sheetId too; one of them is needed",
      );
    return this.prepare({
      ...own,
      machine_key: known.machine.key,
      wish: JSON.stringify(runWish.parse(wish)),
      state: "preparing",
    });
  }

  /** One pass of a run once more, as a run of its own. */
  async again(id: string, pass: string): Promise<RunView> {
    const { machine_key, name, ticket_id, route_id, revision, sheet_id, sheet, wish, plan } =
      await this.runs.row(id);
    if (!plan?.passes.some((p) => p.name === pass))
      throw new ProblemException(
        400,
        "Not valid",
        `pass is ${JSON.stringify(pass)}; allowed: ${plan?.passes.map((p) => p.name).join(", ")}`,
      );
    const values = {
      machine_key,
      ticket_id,
      route_id,
      revision,
      sheet_id,
      sheet,
      state: "preparing" as const,
    };
    const again = JSON.stringify({ ...wish, passes: [pass], at: plan.at });
    return this.prepare({ ...values, name: `${name}: ${pass} again`, wish: again });
  }

  private async prepare(values: Parameters<RunsStore["add"]>[0]): Promise<RunView> {
    const row = await this.runs.add(values);
    await this.renders.ask({ kind: "program", wish: { runId: String(row.id) } });
    return runView(row);
  }

  private async ofRoute(routeId: string) {
    const { ticketId, revision, route } = await this.routes.get(routeId);
    const { number, piece } = await this.tickets.get(ticketId);
    return { name: `${number} ${piece}, ${route.name}`, ticket_id: ticketId, route_id: routeId, revision };
  }

  private async ofOneSheet(sheetId: string, sheet: number) {
    const { name, placings, pieces } = await this.sheets.get(sheetId);
    const last = placings.reduce((most, p) => Math.max(most, p.sheet + 1), 0);
    if (sheet > last) throw new ProblemException(400, "Not valid", `sheet is ${sheet}; ${last} are arranged`);
    const ticketId = new Set(pieces.map((p) => p.ticketId)).size === 1 ? pieces[0].ticketId : null;
    return { name: `${name}, sheet ${sheet}`, ticket_id: ticketId, sheet_id: sheetId, sheet };
  }

  /** Into the machine's queue, at its end. */
  async queue(id: string): Promise<RunView> {
    const place = Date.now() / 1000;
    await this.need(await this.runs.set(id, { state: "queued", place, error: null }, ["ready"]), id, "sent");
    return this.get(id);
  }

  async pause(id: string): Promise<RunView> {
    await this.need(await this.runs.set(id, { state: "paused" }, ["running"]), id, "paused");
    this.drivers.get(id)?.pause();
    return this.get(id);
  }

  /** A paused run goes on; one that is held is sent on from where its machine says it is. */
  async resume(id: string): Promise<RunView> {
    if (await this.runs.set(id, { state: "running" }, ["paused"])) {
      const driver = this.drivers.get(id);
      if (driver) driver.goOn();
      else await this.runs.set(id, { state: "queued" }, ["running"]);
      return this.get(id);
    }
    await this.need(await this.runs.set(id, { state: "queued", error: null }, ["held"]), id, "gone on with");
    return this.get(id);
  }

  async stop(id: string): Promise<RunView> {
    const driver = this.drivers.get(id);
    if (driver) {
      driver.stop();
      return this.get(id);
    }
    const ended = { state: "stopped" as const, ended_at: new Date() };
    await this.need(await this.runs.set(id, ended, ["ready", "queued", "paused", "held"]), id, "stopped");
    return this.get(id);
  }

  /** A photograph of what lies burned on a stand-in: what a shop would take with a camera. @throws ProblemException where there is none */
  async photo(id: string): Promise<Buffer> {
    const row = await this.runs.row(id);
    const known = await this.machines.get(row.machine_key);
    if (row.state !== "done" || !row.plan?.bitmap || !known.floor)
      throw new ProblemException(
        409,
        "Nothing to photograph",
        `Run ${id} has burned no bitmap on a simulated machine.`,
      );
    const query = burnedGrid(row.plan, known);
    const material = row.route_id ? (await this.routes.get(String(row.route_id))).route.material : undefined;
    const looks = USUAL_MATERIALS.find((m) => m.key === material);
    query.set("material", material === "slate" ? "slate" : /wood/.test(material ?? "") ? "wood" : "usual");
    query.set("bare", (looks?.bareColour ?? "#efe7d6").slice(1));
    query.set("marked", (looks?.markColour ?? "#3a2a1c").slice(1));
    query.set("seed", id);
    const floor = `http://${known.host}:${known.floor}`;
    const { job } = (await (await fetch(`${floor}/`)).json()) as { job: string };
    if (job !== id)
      throw new ProblemException(409, "Taken off", `Another piece lies on the bed now (run ${job}).`);
    return Buffer.from(await (await fetch(`${floor}/photo?${query}`)).arrayBuffer());
  }

  /** Another place in its machine's queue. */
  async move(id: string, { before }: QueuePlace): Promise<MachineView> {
    const run = await this.runs.row(id);
    const queue = (await this.runs.queueOf(run.machine_key)).filter((r) => String(r.id) !== id);
    const at = before ? queue.findIndex((r) => String(r.id) === before) : queue.length;
    if (at < 0)
      throw new ProblemException(
        409,
        "Not in the queue",
        `Run ${before} does not wait at this machine any more.`,
      );
    const [low, high] = [queue[at - 1]?.place, queue[at]?.place];
    const place = low === undefined ? (high ?? 1) - 1 : high === undefined ? low + 1 : (low + high) / 2;
    await this.runs.set(id, { place });
    return this.view(await this.machines.get(run.machine_key));
  }

  private async need(done: boolean, id: string, what: string): Promise<void> {
    if (done) return;
    const { state } = await this.runs.row(id);
    throw new ProblemException(409, "Not now", `Run ${id} is ${state}; it cannot be ${what}.`);
  }

  /** Sends whatever is next at each machine that is free, and takes note of runs whose sender is gone. */
  private async look(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      for (const known of await this.machines.list()) await this.lookAt(known);
    } catch (error) {
      log.warn({ err: error }, "looking at the queues of machines");
    } finally {
      this.looking = false;
    }
  }

  private async lookAt(known: KnownMachine): Promise<void> {
    const { key } = known.machine;
    const queue = await this.runs.queueOf(key);
    if (queue.length === 0 || queue.some((r) => this.drivers.has(String(r.id)))) return;
    // One sender a machine, however many servers there are: whoever holds the machine's lock, on a connection of its own.
    const client = await this.pool.connect();
    const give = async (): Promise<void> => {
      await client.query("select pg_advisory_unlock($1, hashtext($2))", [LOCKS, key]).catch(() => {});
      client.release();
    };
    const { rows } = await client.query("select pg_try_advisory_lock($1, hashtext($2)) as ours", [
      LOCKS,
      key,
    ]);
    if (!rows[0].ours) return client.release();
    const next = await this.nextOf(key).catch((error: unknown) => (log.warn({ err: error }, "queue"), null));
    if (!next) return give();
    const driver = new RunDriver(next, known, this.runs, this.blobs);
    this.drivers.set(driver.id, driver);
    void this.run(driver, next, known).finally(give);
  }

  /** The run that its machine is to do now. Those whose sender is gone are held: nothing is repeated without asking. */
  private async nextOf(machine: string): Promise<RunRow | null> {
    const gone =
      "The program ended while it ran. Nothing is repeated by itself: go on when the machine is ready.";
    const queue = await this.runs.queueOf(machine);
    for (const { id, state } of queue)
      if (state === "running" || state === "paused")
        await this.runs.set(String(id), { state: "held", error: gone }, ["running", "paused"]);
    // What was begun comes before everything else, and keeps its machine while it is held.
    const begun = queue.find((r) => r.started_at);
    const next = begun ?? queue[0];
    return next?.state === "queued" ? next : null;
  }

  private async run(driver: RunDriver, row: RunRow, known: KnownMachine): Promise<void> {
    try {
      const started = row.started_at ? {} : { started_at: new Date() };
      if (!(await this.runs.set(driver.id, { state: "running", error: null, ...started }, ["queued"])))
        return;
      if (row.job && known.floor && row.executed === 0) await layIn(known, row);
      await driver.drive();
    } catch (error) {
      log.error({ err: error, run: driver.id }, "run");
    } finally {
      this.drivers.delete(driver.id);
    }
  }
}

/** Somebody lays the printed sheet into a stand-in: askew, as hands do. */
async function layIn({ host, floor }: KnownMachine, { id, job }: RunRow): Promise<void> {
  const { marks } = job as unknown as {
    marks: { entry: object; places: unknown; widthMm: number; heightMm: number };
  };
  const { entry, places, widthMm, heightMm } = marks;
  const body = JSON.stringify({ seed: Number(id), marks: places, entry, widthMm, heightMm });
  await fetch(`http://${host}:${floor}/sheet`, { method: "POST", body }).catch(() => {});
}

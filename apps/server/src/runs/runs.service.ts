import { type MachineView, type NewRun, type QueuePlace, type RunView } from "@hardline/contract";
import { type Wish } from "@hardline/core/machine/control";
import { runWish } from "@hardline/core/machine/wish";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { Inject, Injectable } from "@nestjs/common";
import { setTimeout as sleep } from "node:timers/promises";
import { isAway } from "../database/away";
import { ProblemException } from "../http/problems";
import { RendersService } from "../renders/renders.service";
import { RoutesService } from "../routes/routes.service";
import { SheetsService } from "../sheets/sheets.service";
import { TicketsService } from "../tickets/tickets.service";
import { burnedGrid } from "./burnedGrid";
import { FloorClient } from "../machines/floorClient";
import { MachinesService, type KnownMachine } from "../machines/machines.service";
import { RunQueue } from "./runQueue";
import { RunsStore, runView, type RunRow } from "./runs.store";

/** So long an answer waits for what the machine does; then it says that the machine does not hear, and that goes on. */
const ANSWER_MS = 1500;
const LOOK_MS = 25;

type State = RunRow["state"];
/** From which states a run that nobody drives is stopped at once. */
const NOT_AT_WORK: readonly State[] = ["preparing", "ready", "queued", "held"];
/** What a run that was told something may come to, each in the words of its state. */
const CAME_TO: Readonly<Record<Wish, readonly State[]>> = {
  stop: ["stopped", "done", "failed"],
  pause: ["paused", "held", "stopped", "done", "failed"],
  go: ["running", "held", "stopped", "done", "failed"],
};

/** What is asked of runs. */
@Injectable()
export class RunsService {
  constructor(
    @Inject(RunsStore) private readonly runs: RunsStore,
    @Inject(RunQueue) private readonly atWork: RunQueue,
    @Inject(MachinesService) private readonly machines: MachinesService,
    @Inject(FloorClient) private readonly floor: FloorClient,
    @Inject(RendersService) private readonly renders: RendersService,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(SheetsService) private readonly sheets: SheetsService,
  ) {}

  async all(): Promise<MachineView[]> {
    const queues = (await this.runs.queues()).map(runView);
    return (await this.machines.list()).map((known) => ({
      ...known,
      queue: queues.filter((run) => run.machine === known.machine.key),
    }));
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
  async create({ machine, routeId, revision, sheetId, sheet = 1, wish }: NewRun): Promise<RunView> {
    const known = await this.machines.get(machine);
    const own = routeId
      ? await this.ofRoute(routeId, revision)
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
      machineKey: known.machine.key,
      wish: JSON.stringify(runWish.parse(wish)),
      state: "preparing",
    });
  }

  /** One pass of a run once more, as a run of its own. */
  async again(id: string, pass: string): Promise<RunView> {
    const { machineKey, name, ticketId, routeId, revision, sheetId, sheet, wish, plan } =
      await this.runs.row(id);
    if (!plan?.passes.some((p) => p.name === pass))
      throw new ProblemException(
        400,
        "Not valid",
        `pass is ${JSON.stringify(pass)}; allowed: ${plan?.passes.map((p) => p.name).join(", ")}`,
      );
    const values = {
      machineKey,
      ticketId,
      routeId,
      revision,
      sheetId,
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

  private async ofRoute(routeId: string, seen: number | undefined) {
    const { ticketId, revision, route } = await this.routes.asSeen(routeId, seen);
    const { number, piece } = await this.tickets.get(ticketId);
    return { name: `${number} ${piece}, ${route.name}`, ticketId, routeId, revision };
  }

  private async ofOneSheet(sheetId: string, sheet: number) {
    const { name, placings, pieces } = await this.sheets.get(sheetId);
    const last = placings.reduce((most, p) => Math.max(most, p.sheet + 1), 0);
    if (sheet > last) throw new ProblemException(400, "Not valid", `sheet is ${sheet}; ${last} are arranged`);
    const ticketId = new Set(pieces.map((p) => p.ticketId)).size === 1 ? pieces[0].ticketId : null;
    return { name: `${name}, sheet ${sheet}`, ticketId, sheetId, sheet };
  }

  /** Into the machine's queue, at its end. */
  async queue(id: string): Promise<RunView> {
    await this.machines.get((await this.runs.row(id)).machineKey);
    const place = Date.now() / 1000;
    await this.need(await this.runs.set(id, { state: "queued", place, error: null }, ["ready"]), id, "sent");
    return this.get(id);
  }

  /** @returns the run as it is then: paused, or pausing, when the machine does not hear */
  async pause(id: string): Promise<RunView> {
    return this.told(id, "pause");
  }

  /** A paused run goes on; one that is held is sent on from where its machine says it is. */
  async resume(id: string): Promise<RunView> {
    if (await this.runs.set(id, { state: "queued", error: null, wanted: null }, ["held"]))
      return this.get(id);
    return this.told(id, "go");
  }

  /** @returns the run as it is then: stopped, or stopping, when the machine does not hear */
  async stop(id: string): Promise<RunView> {
    return this.told(id, "stop");
  }

  /** A run whose machine never said that it has stopped, put away by somebody who has been there. */
  async putAway(id: string): Promise<RunView> {
    const words = "Put away by hand: the machine never said that it has stopped.";
    const away = { state: "stopped" as const, endedAt: new Date(), error: words };
    await this.need(await this.runs.set(id, away, ["stopping", "held"]), id, "put away");
    return this.get(id);
  }

  /**
   * What is wished, first told to whoever drives the run in this program, without waiting for anything, as far as it makes
   * nothing move; then written down for whichever program drives it; and answered by what the machine did.
   */
  private async told(id: string, wish: Wish): Promise<RunView> {
    const driver = this.atWork.driver(id);
    if (driver && wish !== "go") driver.wish(wish);
    try {
      return await this.toldAndSeen(id, wish);
    } catch (error) {
      if (!driver || wish === "go" || !isAway(error)) throw error;
      const words = `The machine was told to ${wish}, but the database is away, and it could not be written down.`;
      throw new ProblemException(503, "Database away", words);
    }
  }

  private async toldAndSeen(id: string, wish: Wish): Promise<RunView> {
    const words = { stop: "stopped", pause: "paused", go: "gone on with" }[wish];
    let number = await this.runs.wish(id, wish);
    if (number === undefined && wish === "stop" && (await this.stoppedAtOnce(id))) return this.get(id);
    // Between the two it may have come to its machine.
    if (number === undefined) number = await this.runs.wish(id, wish);
    if (number === undefined) return this.orRefuse(id, wish, words);
    const until = Date.now() + ANSWER_MS;
    for (;;) {
      const row = await this.runs.row(id);
      if (CAME_TO[wish].includes(row.state) && (row.heeded >= number || row.state !== "running"))
        return runView(row);
      // It came to rest otherwise before anybody read what was wished.
      if (row.state === "held" && wish === "stop" && (await this.stoppedAtOnce(id))) return this.get(id);
      if (Date.now() > until) return runView(row);
      await sleep(LOOK_MS);
    }
  }

  private async stoppedAtOnce(id: string): Promise<boolean> {
    return this.runs.set(id, { state: "stopped", endedAt: new Date() }, NOT_AT_WORK);
  }

  /** Stopped twice is stopped; everything else that has ended is told. */
  private async orRefuse(id: string, wish: Wish, words: string): Promise<RunView> {
    const run = await this.get(id);
    if (wish === "stop" && run.state === "stopped") return run;
    await this.need(false, id, words);
    return run;
  }

  /** A photograph of what lies burned on a stand-in: what a shop would take with a camera. @throws ProblemException where there is none */
  async photo(id: string): Promise<Buffer> {
    const row = await this.runs.row(id);
    const known = await this.machines.get(row.machineKey);
    if (row.state !== "done" || !row.plan?.bitmap || !known.floor)
      throw new ProblemException(
        409,
        "Nothing to photograph",
        `Run ${id} has burned no bitmap on a simulated machine.`,
      );
    const query = burnedGrid(row.plan, known);
    const material = row.routeId ? (await this.routes.get(String(row.routeId))).route.material : undefined;
    const looks = USUAL_MATERIALS.find((m) => m.key === material);
    query.set("material", material === "slate" ? "slate" : /wood/.test(material ?? "") ? "wood" : "usual");
    query.set("bare", (looks?.bareColour ?? "#efe7d6").slice(1));
    query.set("marked", (looks?.markColour ?? "#3a2a1c").slice(1));
    query.set("seed", id);
    const job = await this.floor.job(known);
    if (job !== id)
      throw new ProblemException(
        409,
        "Taken off",
        `Another piece lies on the bed now (run ${job ?? "none"}).`,
      );
    return (await this.floor.picture(known, `/photo?${query}`)).png;
  }

  /** Another place in its machine's queue. */
  async move(id: string, { before }: QueuePlace): Promise<MachineView> {
    const run = await this.runs.row(id);
    const queue = (await this.runs.queueOf(run.machineKey)).filter((r) => String(r.id) !== id);
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
    return this.view(await this.machines.get(run.machineKey));
  }

  private async need(done: boolean, id: string, what: string): Promise<void> {
    if (done) return;
    const { state } = await this.runs.row(id);
    throw new ProblemException(409, "Not now", `Run ${id} is ${state}; it cannot be ${what}.`);
  }
}

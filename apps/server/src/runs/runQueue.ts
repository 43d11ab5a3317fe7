import { Inject, Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from "@nestjs/common";
import { BlobStore } from "../blobs/blob.store";
import { Calculating } from "../calculating/calculating.service";
import { isAway } from "../database/away";
import { log } from "../log/log";
import { Settings } from "../settings";
import { burnedGrid } from "./burnedGrid";
import { FloorClient } from "../machines/floorClient";
import { MachineLocks } from "./machineLocks";
import { MachinesService, type KnownMachine } from "../machines/machines.service";
import { MachineReach } from "../machines/reach";
import { RunDriver, type Around } from "./runDriver";
import { RunsStore, type RunRow } from "./runs.store";
import { SendingService } from "./sending";
import { readJobMarks } from "@hardline/core/machine/jobMarks";

const LOOK_MS = 250;
/** How often it is looked whether the connection that holds machines still stands. */
const ALIVE_MS = 2000;
/** Longer nobody waits for a machine to stand still when the program ends. */
const LEAVE_MS = 2000;

const GONE =
  "The program ended while it ran. Nothing is repeated by itself: go on when the machine is ready.";

/** Sends whatever is next at each machine that is free, one run a machine however many servers there are. */
@Injectable()
export class RunQueue implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly drivers = new Map<string, { readonly driver: RunDriver; readonly ends: Promise<void> }>();
  private readonly timers: NodeJS.Timeout[] = [];
  private looking = false;
  private readonly around: Around;

  constructor(
    @Inject(Settings) private readonly settings: Settings,
    @Inject(RunsStore) private readonly runs: RunsStore,
    @Inject(MachinesService) private readonly machines: MachinesService,
    @Inject(MachineLocks) private readonly locks: MachineLocks,
    @Inject(FloorClient) private readonly floor: FloorClient,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(Calculating) calculating: Calculating,
    @Inject(SendingService) sending: SendingService,
    @Inject(MachineReach) reach: MachineReach,
  ) {
    const looked: Around["looked"] = (run, known) => this.looked(run, known);
    this.around = { runs, blobs, calculating, sending, reach, looked };
  }

  onApplicationBootstrap(): void {
    const { role } = this.settings;
    if (role === "worker" || role === "seed") return;
    this.locks.onLost = () => this.leaveAll("This program no longer has the machine for itself.");
    this.locks.onWish = (id) => void this.heed(id);
    this.timers.push(
      setInterval(() => void this.look(), LOOK_MS),
      setInterval(() => void this.locks.look().catch(() => {}), ALIVE_MS),
    );
  }

  async onApplicationShutdown(): Promise<void> {
    for (const timer of this.timers) clearInterval(timer);
    this.leaveAll(GONE);
    const ends = [...this.drivers.values()].map((d) => d.ends);
    await Promise.race([Promise.allSettled(ends), new Promise((r) => setTimeout(r, LEAVE_MS).unref())]);
  }

  /** The run's driver, where it is this program's. */
  driver(id: string): RunDriver | undefined {
    return this.drivers.get(id)?.driver;
  }

  private leaveAll(why: string): void {
    for (const { driver } of this.drivers.values()) driver.leave(why);
  }

  private async heed(id: string): Promise<void> {
    await this.driver(id)
      ?.heed()
      .catch((error: unknown) => log.warn({ err: error, run: id }, "reading a wish"));
  }

  /** Sends whatever is next at each machine that is free, and takes note of runs whose sender is gone. */
  private async look(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      const queues = new Map<string, RunRow[]>();
      for (const run of await this.runs.queues())
        queues.set(run.machineKey, [...(queues.get(run.machineKey) ?? []), run]);
      for (const [key, queue] of queues) {
        if (queue.some((r) => this.drivers.has(String(r.id))) || !queue.some(isToDo)) continue;
        // What is wrong with one machine is no matter to the others.
        await this.lookAt(key).catch((error: unknown) => {
          if (!isAway(error)) log.warn({ err: error, machine: key }, "looking at a machine's queue");
        });
      }
    } catch (error) {
      if (!isAway(error)) log.warn({ err: error }, "looking at the queues of machines");
    } finally {
      this.looking = false;
    }
  }

  private async lookAt(key: string): Promise<void> {
    if (!(await this.locks.take(key))) return;
    let driven = false;
    try {
      const next = await this.nextOf(key);
      if (!next) return;
      const known = await this.machines.find(key);
      if (!known) {
        const gone = { state: "failed" as const, endedAt: new Date(), error: "The machine was removed." };
        return void (await this.runs.set(String(next.id), gone, ["queued", "stopping"]));
      }
      const driver = new RunDriver(next, known, this.around);
      // The machine is given back before anybody may look at it again.
      const ends = this.drive(driver, next, known)
        .then(() => this.locks.give(key))
        .finally(() => this.drivers.delete(driver.id));
      this.drivers.set(driver.id, { driver, ends });
      driven = true;
    } finally {
      if (!driven) await this.locks.give(key);
    }
  }

  /**
   * The run that its machine is to do now, read anew under the machine's lock. Those whose sender is gone are held: nothing
   * is repeated without asking. One that is to be stopped is stopped.
   */
  private async nextOf(machine: string): Promise<RunRow | null> {
    const queue = await this.runs.queueOf(machine);
    for (const run of queue) {
      if (run.state === "stopping" || (isAtWork(run) && run.wanted === "stop" && run.wantedNo > run.heeded)) {
        await this.runs.rest(String(run.id), { state: "stopping" });
        return { ...run, state: "stopping", heeded: run.wantedNo };
      }
      if (isAtWork(run)) await this.runs.rest(String(run.id), { state: "held", error: GONE });
    }
    // What was begun comes before everything else, and keeps its machine while it is held.
    const begun = queue.find((r) => r.startedAt);
    const next = begun ?? queue[0];
    return next?.state === "queued" ? next : null;
  }

  private async drive(driver: RunDriver, run: RunRow, known: KnownMachine): Promise<void> {
    try {
      if (run.state !== "stopping") {
        const started = run.startedAt ? {} : { startedAt: new Date() };
        const values = { state: "running" as const, error: null, wanted: null, ...started };
        if (!(await this.runs.set(driver.id, values, ["queued"]))) return;
        if (run.job && known.floor && run.executed === 0) await this.layIn(known, run);
      }
      await driver.drive();
    } catch (error) {
      log.error({ err: error, run: driver.id }, "run");
    }
  }

  /** Somebody lays the printed sheet into a stand-in: askew, as hands do. */
  private async layIn(known: KnownMachine, { id, job }: RunRow): Promise<void> {
    const { entry, places, widthMm, heightMm } = readJobMarks((job as { marks?: unknown }).marks);
    await this.floor
      .tell(known, "/sheet", { seed: Number(id), marks: places, entry, widthMm, heightMm })
      .catch((error: unknown) => log.warn({ err: error, run: id }, "laying a sheet in"));
  }

  /** What a stand-in made, looked at: the burned picture beside the bitmap that was to be burned. */
  private async looked(run: RunRow, known: KnownMachine): Promise<Parameters<RunsStore["set"]>[1]> {
    const { bitmap } = run.plan!;
    if (!bitmap || !known.floor) return {};
    const burned = await this.floor
      .picture(known, `/burned?${burnedGrid(run.plan!, known)}`, bitmap)
      .catch((error: unknown) => (log.warn({ err: error, run: run.id }, "looking at what was burned"), null));
    if (!burned) return {};
    const sha256 = await this.blobs.put(burned.png, "image/png");
    const made = { equal: sha256 === bitmap.sha256, twice: burned.twice };
    return { burnedSha256: sha256, made: JSON.stringify(made) };
  }
}

const isAtWork = ({ state }: RunRow): boolean =>
  state === "running" || state === "pausing" || state === "paused" || state === "stopping";
/** Held runs keep their machine, and there is nothing to do about them. */
const isToDo = (run: RunRow): boolean => run.state === "queued" || isAtWork(run);

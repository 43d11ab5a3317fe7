import { type Check, type Readings } from "../inspect/check";
import { type Limits } from "../inspect/limits";
import { Aborted, drive, type AbortSignalLike, type Work } from "../maths/work";
import { readyFonts, typefaceOf, type FontSource } from "../letters/shelf";
import { photoOf, readyPhotos, type PhotoSource } from "../mockUp/photos";
import { RouteError } from "../settings/errors";
import { isTurned } from "../turn/turn";
import { bytesOf, type Result, type ResultKind } from "../result/result";
import { type Context, type Inspection, type Keep } from "../stage/stage";
import { type StageId } from "../stage/stages";
import { ByteCache } from "./byteCache";
import { canonical } from "../settings/canonical";
import { planOf, stepUpTo, type Plan, type Step } from "./plan";
import { type Route } from "./route";
import { PassingRows } from "../resample/rows";
import { type ArtworkSource } from "./source";

export interface StageResult {
  readonly stage: StageId;
  readonly key: string;
  readonly result: Result;
  /** How long it took; 0 when it was still at hand. */
  readonly ms: number;
}

export interface StageInspection {
  readonly stage: StageId;
  readonly readings: Readings;
  readonly checks: readonly Check[];
}

export interface RunOptions {
  readonly signal?: AbortSignalLike;
  /** Share done, 0..1, and the stage at work. */
  readonly progress?: (share: number, stage: StageId) => void;
}

/** What the runner is lent by whoever hosts it. */
export interface Host {
  /** Lets other things happen between two slices of work. */
  readonly pause?: () => Promise<void>;
  /** Milliseconds, for the readings. */
  readonly clock?: () => number;
  /** Bytes of results that are kept; 768 MiB when left out. What one route comes to is kept in any case. */
  readonly cacheBytes?: number;
  /** Where fonts come from that words on a route are set in; without it there are none. */
  readonly fonts?: FontSource;
  /** Where photographs of things come from; without it there are none. */
  readonly photos?: PhotoSource;
  /** Artwork that only passes through on its way to a stage is not held whole. */
  readonly lean?: boolean;
}

/**
 * Brings about the results of a route. Results are kept by key, and the way to one starts from the deepest still at
 * hand: a changed setting recomputes what really depends on it, and going back costs nothing. The same in a web
 * worker, on the server and on the command line.
 */
export class Runner {
  private readonly results: ByteCache<unknown>;
  private readonly halves = new Map<string, Result>();
  private readonly times = new ByteCache<number>(1 << 20);
  private readonly inspections = new ByteCache<Inspection>(32 << 20);

  constructor(private readonly host: Host = {}) {
    this.results = new ByteCache(host.cacheBytes ?? 768 << 20);
  }

  /**
   * The result of every stage of a route, in order.
   * @param upTo  the last stage that is wanted; all of them when left out
   * @throws Aborted     when the signal is aborted, within one slice of work
   * @throws RouteError  when a setting cannot be met for this artwork
   */
  async run(
    route: Route,
    source: ArtworkSource,
    { upTo, ...options }: RunOptions & { readonly upTo?: StageId } = {},
  ): Promise<StageResult[]> {
    const plan = planOf(route, source.facts);
    const last = upTo ? plan.steps.indexOf(stepUpTo(plan, upTo)) : plan.steps.length - 1;
    const wanted = plan.steps.slice(0, last + 1);
    const tell = this.teller(wanted, options);
    const done: StageResult[] = [];
    for (const step of wanted) done.push(await this.give(plan, source, step, tell));
    options.progress?.(1, wanted[last].stage.id);
    return done;
  }

  /** One step's result, and no more than it needs. @throws as `run` */
  async result(
    plan: Plan,
    source: ArtworkSource,
    step: Step,
    options: RunOptions = {},
  ): Promise<StageResult> {
    const given = await this.give(plan, source, step, this.teller([step], options));
    options.progress?.(1, step.stage.id);
    return given;
  }

  /** A result that is still at hand. */
  kept(step: Step): Result | undefined {
    return this.results.get(step.key) as Result | undefined;
  }

  /** A smaller copy of a result that is not at hand whole: first looks are made of it. */
  halved(step: Step): Result | undefined {
    return this.halves.get(step.key);
  }

  putHalved(step: Step, result: Result): void {
    this.halves.clear(); // of one artwork, turned in one way
    this.halves.set(step.key, result);
  }

  /** How long a result took when it was last made here; 0 when it was not. */
  took(step: Step): number {
    return this.times.get(step.key) ?? 0;
  }

  /** Takes up a result that was made elsewhere. */
  put(key: string, result: Result): void {
    this.results.set(key, result, bytesOf(result));
  }

  /** Every check and reading of a route, in the order of its stages. @throws as `run` */
  async inspect(route: Route, source: ArtworkSource, options: RunOptions = {}): Promise<StageInspection[]> {
    const plan = planOf(route, source.facts);
    const found: StageInspection[] = [];
    for (const step of plan.steps) found.push(await this.inspectStep(plan, source, step, options));
    return found;
  }

  /** Checks and readings of one step. */
  async inspectStep(
    plan: Plan,
    source: ArtworkSource,
    step: Step,
    options: RunOptions = {},
  ): Promise<StageInspection> {
    const { stage, settings, key } = step;
    const limits = plan.route.checks;
    if (!stage.inspect) return { stage: stage.id, readings: {}, checks: [] };
    const name = `${key} ${limitsKey(limits)}`;
    let inspection = this.inspections.get(name);
    if (!inspection) {
      const { result } = await this.give(plan, source, step, options);
      const taken = stage.looksBack ? await this.taken(plan, source, step, options) : {};
      const work = stage.inspect(result, taken, settings, limits, this.contextOf(plan, step));
      inspection = await this.drive(work, options.signal);
      this.inspections.set(name, inspection, 16384);
    }
    return { stage: stage.id, ...inspection };
  }

  /**
   * What a stage is told when it is run on something.
   * @param less  what tells a draft's input from the whole
   */
  contextOf(plan: Plan, step: Step, less = ""): Context {
    return { facts: plan.facts, place: plan.place, keep: this.keepOf(step, less) };
  }

  /** Gets ready what a route needs from elsewhere; drafts of it can be made then. @throws RouteError for a font that is not there */
  async ready({ steps }: Pick<Plan, "steps">): Promise<void> {
    for (const step of steps) await this.readyFor(step);
  }

  private async readyFor({ stage, settings }: Step): Promise<void> {
    await this.readyPhotos(stage, settings);
    const missing = (stage.fonts?.(settings) ?? []).filter((key) => !typefaceOf(key));
    for (const key of missing)
      try {
        if (!this.host.fonts) throw new Error("there are no fonts here");
        await readyFonts([key], this.host.fonts);
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        throw new RouteError(stage.id, "font", key, `one of the shop's fonts (${why})`);
      }
  }

  private async readyPhotos(stage: Step["stage"], settings: object): Promise<void> {
    for (const key of (stage.photos?.(settings) ?? []).filter((k) => !photoOf(k)))
      try {
        if (!this.host.photos) throw new Error("there are no photographs here");
        await readyPhotos([key], this.host.photos);
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        throw new RouteError(stage.id, "photo", key, `one of the shop's photographs (${why})`);
      }
  }

  private async give(
    plan: Plan,
    source: ArtworkSource,
    step: Step,
    options: RunOptions,
  ): Promise<StageResult> {
    const { stage, settings, key } = step;
    const kept = this.kept(step);
    if (kept) return { stage: stage.id, key, result: kept, ms: 0 };
    this.results.atLeast(bytesFor(plan, this.host.lean));
    stage.admit?.(settings, plan.place);
    await this.readyFor(step);
    const clock = this.host.clock ?? (() => 0);
    const progress = (share: number): void => options.progress?.(share, stage.id);
    let started = clock();
    let [result, from]: [Result | null, Result[]] = [
      await this.passedThrough(plan, source, step, options),
      [],
    ];
    if (!result) {
      const taken = await this.taken(plan, source, step, options);
      from = Object.values(taken);
      started = clock();
      result = stage.read
        ? await stage.read(source, plan, (work) => this.drive(work, options.signal, progress))
        : await this.drive(stage.run!(taken, settings, this.contextOf(plan, step)), options.signal, progress);
    }
    if (options.signal?.aborted) throw new Aborted();
    const ms = clock() - started;
    this.results.set(key, result, bytesOf(result, from));
    this.halves.delete(key);
    this.times.set(key, ms, 256);
    return { stage: stage.id, key, result, ms };
  }

  /** A result made of the artwork's rows as they arrive; null where that cannot be, or the artwork is at hand. */
  private async passedThrough(
    plan: Plan,
    source: ArtworkSource,
    { stage, settings, takes }: Step,
    { signal }: RunOptions,
  ): Promise<Result | null> {
    const [from, ...others] = Object.values(takes);
    if (!this.host.lean || !stage.passThrough || !source.rows || plan.drawWidth !== undefined) return null;
    if (!from?.stage.read || isTurned(plan.turn) || others.length > 0 || this.kept(from)) return null;
    let result: Result | null = null;
    await source.rows(
      (picture) => {
        const rows = new PassingRows(picture);
        const work = stage.passThrough!(rows, settings, plan.place);
        return (y, row) => {
          if (signal?.aborted) throw new Aborted();
          rows.put(y, row);
          while (!result && !rows.wanting) {
            const step = work.next();
            if (step.done) result = step.value;
          }
        };
      },
      () => this.host.pause?.() ?? Promise.resolve(),
    );
    return result;
  }

  private async taken(
    plan: Plan,
    source: ArtworkSource,
    step: Step,
    options: RunOptions,
  ): Promise<Record<string, Result>> {
    const taken: Record<string, Result> = {};
    for (const [name, from] of Object.entries(step.takes))
      taken[name] = (await this.give(plan, source, from, options)).result;
    return taken;
  }

  /** Turns each step's own share of its work into a share of all that has to be done. */
  private teller(wanted: readonly Step[], { signal, progress }: RunOptions): RunOptions {
    if (!progress) return { signal };
    const missing = new Set<StageId>();
    const look = (step: Step): void => {
      if (this.kept(step)) return;
      Object.values(step.takes).forEach(look);
      missing.add(step.stage.id);
    };
    wanted.forEach(look);
    const order = [...missing];
    return {
      signal,
      progress: (share, stage) => progress((order.indexOf(stage) + share) / order.length, stage),
    };
  }

  /** Kept by what the step takes, not by its settings: it is there again when only those have changed. */
  private keepOf(step: Step, less: string): Keep {
    const room = `${step.stage.id} ${Object.values(step.takes)
      .map((s) => s.key)
      .join(" ")} ${less}`;
    return {
      get: <T>(name: string) => this.results.get(`${room} ${name}`) as T | undefined,
      set: (name, value, bytes) => this.results.set(`${room} ${name}`, value, bytes),
    };
  }

  private drive<T>(work: Work<T>, signal?: AbortSignalLike, progress?: (share: number) => void): Promise<T> {
    return drive(work, { signal, progress, pause: this.host.pause });
  }
}

/** Bytes a dot that a result of each kind comes to, with what its stage keeps beside it. */
const BYTES_A_DOT: Partial<Record<ResultKind, number>> = { picture: 6, tone: 4, plates: 2 };
const SMALL_THINGS = 1 << 20;

/** What the results of one route may come to together: less, and every look would make them anew. */
function bytesFor({ facts, place, steps }: Plan, lean = false): number {
  const made = steps.filter((s) => s.stage.run);
  const aDot = made.reduce(
    (sum, { stage, settings }) => sum + (stage.bytesADot?.(settings, place) ?? BYTES_A_DOT[stage.gives] ?? 0),
    0,
  );
  const artwork = lean ? 0 : 4 * facts.width * facts.height;
  return SMALL_THINGS + artwork + aDot * place.finish.widthPx * place.finish.heightPx;
}

const limitsKey = (limits: Limits): string => canonical(limits);

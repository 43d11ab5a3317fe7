import { type Check, type Limits, type Readings } from "../inspect/check";
import { drive, type AbortSignalLike, type Work } from "../maths/work";
import { type Inspection } from "../stage/stage";
import { drawWidthOf, finishOf } from "../stage/size/finish";
import { type SizeSettings } from "../stage/size/settings";
import { STAGES, stageById, type StageId } from "../stage/stages";
import { type Art, type ArtworkSource } from "./art";
import { ByteCache } from "./byteCache";
import { settingsOf, stageKey, type Route } from "./route";

export interface StageResult {
  readonly stage: StageId;
  /** Hash of the stage, its settings and everything before it. */
  readonly key: string;
  readonly art: Art;
  /** How long it took; 0 when it was still at hand. */
  readonly ms: number;
}

export interface StageInspection {
  readonly stage: StageId;
  readonly readings: Readings;
  readonly checks: readonly Check[];
}

export interface RunOptions {
  /** The last stage that is wanted; all of them when left out. */
  readonly upTo?: StageId;
  readonly signal?: AbortSignalLike;
  /** Share done, 0..1, and the stage at work. */
  readonly progress?: (share: number, stage: StageId) => void;
}

/** What the runner is lent by whoever hosts it. */
export interface Host {
  /** Lets other things happen between two portions of work. */
  readonly pause?: () => Promise<void>;
  /** Milliseconds, for the readings. */
  readonly clock?: () => number;
  /** Bytes of results that are kept; 768 MiB when left out. */
  readonly cacheBytes?: number;
}

/**
 * Walks the stages of a route. Results are kept by key, so a changed setting recomputes only what follows,
 * and going back costs nothing. The same in a web worker, on the server and on the command line.
 */
export class Runner {
  private readonly results: ByteCache<Art>;
  private readonly inspections = new ByteCache<Inspection>(32 << 20);

  constructor(private readonly host: Host = {}) {
    this.results = new ByteCache(host.cacheBytes ?? 768 << 20);
  }

  /**
   * @throws Aborted     when the signal is aborted, within one portion of work
   * @throws RouteError  when a setting cannot be met for this artwork
   */
  async run(route: Route, source: ArtworkSource, options: RunOptions = {}): Promise<StageResult[]> {
    const clock = this.host.clock ?? (() => 0);
    const size = settingsOf<SizeSettings>(route, "size");
    const drawWidth = drawWidthFor(route, source);
    const steps = stepsOf(route);
    const { upTo } = options;
    const wanted = upTo ? steps.filter((s) => placeInOrder(s.stage) <= placeInOrder(upTo)) : steps;

    const done: StageResult[] = [];
    let key = firstKey(route, source);
    let art: Art | null = null;
    for (const [i, { stage: id, settings }] of wanted.entries()) {
      const stage = stageById(id);
      key = stageKey(id, settings, key);
      const started = clock();
      const kept = this.results.get(key);
      if (kept) {
        art = kept;
        done.push({ stage: id, key, art, ms: 0 });
        continue;
      }
      const before: Art = art ?? {
        facts: source.facts,
        colour: await source.pixels(drawWidth),
        finish: size ? null : finishOf(source.facts, PIXELS_AS_THEY_ARE),
        frame: null,
        cleared: null,
        toned: null,
        dots: null,
      };
      stage.admit?.(settings, before);
      const next: Art = await this.drive(stage.run(before, settings), options.signal, (share) =>
        options.progress?.((i + share) / wanted.length, id),
      );
      this.results.set(key, next, newBytes(next, art));
      art = next;
      done.push({ stage: id, key, art, ms: clock() - started });
    }
    options.progress?.(1, done[done.length - 1].stage);
    return done;
  }

  /** Whether the result of a stage is still at hand. */
  has(route: Route, source: ArtworkSource, id: StageId): boolean {
    let key = firstKey(route, source);
    for (const { stage, settings } of stepsOf(route)) {
      key = stageKey(stage, settings, key);
      if (stage === id) return this.results.get(key) !== undefined;
    }
    return false;
  }

  /** Every check and reading of results that `run` gave. */
  async inspect(
    route: Route,
    results: readonly StageResult[],
    options: RunOptions = {},
  ): Promise<StageInspection[]> {
    const found: StageInspection[] = [];
    for (const { stage: id, key, art } of results) {
      const stage = stageById(id);
      if (!stage.inspect) {
        found.push({ stage: id, readings: {}, checks: [] });
        continue;
      }
      const inspectionKey = `${key} ${limitsKey(route.checks)}`;
      let inspection = this.inspections.get(inspectionKey);
      if (!inspection) {
        inspection = await this.drive(
          stage.inspect(art, settingsOf(route, id) ?? {}, route.checks),
          options.signal,
        );
        this.inspections.set(inspectionKey, inspection, 16384);
      }
      found.push({ stage: id, ...inspection });
    }
    return found;
  }

  private drive<T>(work: Work<T>, signal?: AbortSignalLike, progress?: (share: number) => void): Promise<T> {
    return drive(work, { signal, progress, pause: this.host.pause });
  }
}

/** A route that leaves Size out keeps every pixel as a dot. */
export const PIXELS_AS_THEY_ARE: SizeSettings = {
  dotsPerInch: 254,
  resample: "none",
  shape: { kind: "whole" },
};

interface RouteStep {
  readonly stage: StageId;
  readonly settings: object;
}

const toStep = ({ stage, ...settings }: Route["stages"][number]): RouteStep => ({ stage, settings });

const stepsOf = (route: Route): RouteStep[] => [
  { stage: "artwork" as const, settings: {} },
  ...route.stages.map(toStep),
];

/** Width in pixels that artwork made of shapes is drawn at. */
function drawWidthFor(route: Route, { facts }: ArtworkSource): number | undefined {
  const size = settingsOf<SizeSettings>(route, "size");
  return facts.vector && size ? drawWidthOf(facts, size) : undefined;
}

const firstKey = (route: Route, source: ArtworkSource): string =>
  `${source.facts.sha256} ${drawWidthFor(route, source) ?? ""}`;

const placeInOrder = (id: StageId): number => STAGES.findIndex((s) => s.id === id);
const limitsKey = ({ areaMm2, dotMm, strayMm2 }: Limits): string => `${areaMm2} ${dotMm} ${strayMm2}`;

/** Bytes of the rasters that a stage made itself, not handed on from the stage before. */
function newBytes(art: Art, before: Art | null): number {
  let bytes = 1024;
  if (art.colour !== before?.colour) bytes += art.colour.data.length;
  for (const { plane } of art.cleared === before?.cleared ? [] : (art.cleared?.gaps ?? []))
    bytes += plane.length;
  if (art.toned && art.toned !== before?.toned)
    bytes += art.toned.gray.data.length + (art.toned.cover?.length ?? 0);
  if (art.dots && art.dots !== before?.dots) bytes += art.dots.bits.data.length;
  return bytes;
}

import { SHAREABLE } from "@hardline/core/route/shareable";
import { joinIn, lend, type SharedJob } from "@hardline/core/hands/shareOut";
import { Aborted, drive, runToEnd } from "@hardline/core/maths/work";
import { dotsPerMm } from "@hardline/core/maths/units";
import { partIn } from "@hardline/core/path/frame";
import { type Rect } from "@hardline/core/raster/types";
import { resultFingerprint } from "@hardline/core/result/fingerprint";
import { baseUnder, Preview } from "@hardline/core/result/preview";
import { markedWithin, readDot, type Reading } from "@hardline/core/result/read";
import { type Less } from "@hardline/core/result/reduce";
import { type Result } from "@hardline/core/result/result";
import { draftOf, leadInOf } from "@hardline/core/route/draft";
import { firstLookTimes, readFirstLook } from "@hardline/core/route/firstLook";
import { canvasOf, planOf, stepAt, type Plan, type Step } from "@hardline/core/route/plan";
import { type Route } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { type ArtworkFacts, type ArtworkSource } from "@hardline/core/route/source";
import { type StageId } from "@hardline/core/stage/stages";
import { expose, transfer } from "comlink";
import { isLarge } from "../engine/large";
import { stageWorker } from "../stages/workers";
import { canShare, pause, shared } from "../engine/host";
import {
  type Handed,
  type InspectedPart,
  type InspectedStage,
  type Peeked,
  type Pane,
  type Question,
  type Shown,
  type ShownPane,
  type Stripe,
  type Underlay,
} from "../engine/protocol";
import { painting, wholeOf } from "../engine/painting";
import { servedFonts } from "../api/servedFonts";
import { servedPhotos } from "../api/servedPhotos";
import { ServedArtworks } from "../engine/servedArtworks";
import { layersOf, sightOf, type Sight } from "../engine/sight";
import { stripeOf, testPieceFor } from "../engine/strips";
import { warmUpJob } from "../engine/warmUp";
import { Unpacker, type PackedRoute } from "../engine/wire";

const THUMBNAIL = { width: 320, height: 320 };
/** A draft of what cannot be run row by row is made from about so many pixels, however near it is looked at. */
const DRAFT_PIXELS = 1.2e6;
const QUIET_MS = 400;
/** A hand that has not moved for so long rests, and the exact is begun. */
const REST_MS = 80;

/**
 * The computation of one bench, or a part of it: results of a route's stages, pictures of them, checks. Every call
 * may be stopped between two slices; a newer one of the same kind stops the one before it.
 */
class Engine {
  private runner!: Runner;
  private source!: ArtworkSource;
  private readonly unpacker = new Unpacker();
  /** Of the route that lies beside: its stages are remembered apart. */
  private readonly besides = new Unpacker();
  private screen = { aborted: false };
  private aside = { aborted: false };
  /** What is on the screen: the plan, and the exact results of the stages it shows and of those before them. */
  private seen: { readonly plan: Plan; readonly at: Step } | null = null;
  private tell: (share: number, stage: StageId) => void = () => undefined;
  private first: (shown: Shown | null, wish: number) => void = () => undefined;
  /** The artwork is so large that it is not held whole, as long as no stage needs it so. */
  private lean = false;
  private readonly served = new ServedArtworks();
  private readonly knownPaths = new Set<string>();

  open(
    artworkId: string,
    facts: ArtworkFacts,
    cacheBytes: number,
    progress: (share: number, stage: StageId) => void,
    first: (shown: Shown | null, wish: number) => void,
    join: ((job: SharedJob) => void) | null,
  ): void {
    this.tell = progress;
    this.first = first;
    lend(join && canShare ? { join } : null);
    this.lean = isLarge(facts);
    this.runner = new Runner({
      ...{ pause, clock: () => performance.now(), cacheBytes },
      ...{ lean: this.lean, fonts: servedFonts },
      photos: servedPhotos((id) => this.served.whole(id)),
    });
    this.source = this.served.source(artworkId, facts);
  }

  /** Has what the first look at an artwork is made of read, before it is known what will be looked at. */
  readAhead(artworkId: string, facts: ArtworkFacts): void {
    const times = firstLookTimes(facts, DRAFT_PIXELS);
    if (times > 0) this.served.readAhead(artworkId, times);
  }

  /** Takes parts of what another worker shares out, until there are no more. */
  async joinIn(job: SharedJob): Promise<void> {
    // What is not done here the other does.
    await drive(joinIn(job, SHAREABLE), { pause }).catch(() => undefined);
  }

  /** Works once through a small picture, while nobody waits: code that has run is compiled, and runs ten times as fast. */
  async warmUp(): Promise<void> {
    const { route, source } = warmUpJob();
    const runner = new Runner({ pause });
    const plan = planOf(route, source.facts);
    for (const { stage, result } of await runner.run(route, source))
      await this.picture(plan, result, wholeOf(plan, stage, baseUnder(result)));
  }

  /**
   * Runs the route as far as the panes need and paints them. A first look is told as soon as there is one; null, when
   * there is none, says that the exact is on its way.
   */
  async show(
    packed: PackedRoute,
    panes: readonly Pane[],
    wish: number,
    packedBeside: PackedRoute | null,
  ): Promise<Shown> {
    const route = this.unpacker.unpack(packed);
    this.screen.aborted = true;
    this.stop();
    const signal = { aborted: false };
    this.screen = signal;
    const plan = planOf(route, this.source.facts);
    const beside = packedBeside && planOf(this.besides.unpack(packedBeside), this.source.facts);
    const plans = panes.map((pane) => (pane.beside && beside ? beside : plan));
    const wanted = panes.map((pane, k) => sightOf(plans[k], pane.stage));
    const steps = wanted.flatMap(({ under, paths }) => (paths ? [under, paths] : [under]));
    const own = steps.filter((s) => plan.steps.includes(s));
    const last = own.reduce((a, b) => (plan.steps.indexOf(a) > plan.steps.indexOf(b) ? a : b));
    if (!steps.every((s) => this.runner.kept(s))) {
      // Without it there is only no first look; what is wrong is told by the exact.
      await readFirstLook(this.runner, plan, this.source, DRAFT_PIXELS, pause).catch(() => undefined);
      await this.runner.ready(plan);
      if (beside) await this.runner.ready(beside);
      const draft = await this.draft(plan, panes, wanted, last);
      this.first(draft, wish);
      // While the hand moves on, a newer wish is here before this is over. What was only just opened no hand has moved.
      if (draft && this.seen) await new Promise((done) => setTimeout(done, REST_MS));
      if (signal.aborted) throw new Aborted();
    }
    const began = performance.now();
    const progress = (share: number, stage: StageId): void => {
      // Only what takes more than a moment is worth a message.
      if (performance.now() - began > QUIET_MS) this.tell(share, stage);
    };
    const sights: Sight<Result>[] = [];
    for (const [k, { under, paths }] of wanted.entries()) {
      const exact = async (step: Step): Promise<Result> =>
        (await this.runner.result(plans[k], this.source, step, { signal, progress })).result;
      sights.push({ under: await exact(under), paths: paths && (await exact(paths)) });
    }
    this.seen = { plan, at: wanted[0].paths ?? wanted[0].under };
    return this.painted(plan, panes, sights, last.key, false, signal);
  }

  /** Pictures of the panes made from as much as the screen shows; null when there is nothing to make them from. */
  private async draft(
    plan: Plan,
    panes: readonly Pane[],
    wanted: readonly Sight<Step>[],
    last: Step,
  ): Promise<Shown | null> {
    const sights: Sight<Result>[] = [];
    const drawn: Pane[] = [];
    for (const [k, { under, paths }] of wanted.entries()) {
      // What lies beside changes seldom: until it is exact, the place stays as it was.
      if (panes[k].beside && !this.runner.kept(under)) continue;
      drawn.push(panes[k]);
      const quick = async (step: Step): Promise<Result | null> => {
        const less = this.lessFor(plan, step, panes[k]);
        return this.runner.kept(step) ?? drive(draftOf(this.runner, plan, step, less), { pause });
      };
      const seen = { under: await quick(under), paths: paths && (await quick(paths)) };
      if (!seen.under || (paths && !seen.paths)) return null;
      sights.push({ under: seen.under, paths: seen.paths });
    }
    return this.painted(plan, drawn, sights, `${last.key.slice(0, 15)}-`, true);
  }

  private lessFor(plan: Plan, step: Step, { part, width, stage }: Pane): Less {
    const { finish } = plan.place;
    const { widthPx, heightPx } = finish;
    // Of a canvas of its own, as many of the piece's dots as lie under a pixel of it.
    const scale = (part.width / width) * (dotsPerMm(finish) / dotsPerMm(canvasOf(plan, stage).finish));
    const leadIn = scale < 2 ? leadInOf(this.runner, plan, step) : null;
    if (leadIn !== null) {
      const from = Math.max(0, Math.floor(part.y) - leadIn);
      const to = Math.min(heightPx, Math.ceil(part.y + part.height) + 1);
      if (to > from && (to - from) * widthPx < 4 * DRAFT_PIXELS) return { kind: "rows", from, to };
    }
    let times = 0;
    while (2 << times <= scale * 1.01) times++;
    while ((widthPx * heightPx) / 4 ** times > DRAFT_PIXELS) times++;
    return { kind: "halves", times };
  }

  private async painted(
    plan: Plan,
    panes: readonly Pane[],
    sights: readonly Sight<Result>[],
    key: string,
    draft: boolean,
    signal?: { aborted: boolean },
  ): Promise<Shown> {
    const shown: ShownPane[] = [];
    const paths: Shown["paths"][number][] = [];
    const notes: Partial<Record<StageId, unknown>> = {};
    for (const [k, pane] of panes.entries()) {
      const { under, paths: over } = sights[k];
      const bitmap = await this.picture(plan, under, pane, signal);
      const pathsKey = over ? `${key} ${pane.stage}` : null;
      if (over?.kind === "paths" && !this.knownPaths.has(pathsKey!)) {
        this.knownPaths.add(pathsKey!);
        const underlay = draft ? null : await this.underlay(plan, pane, over, signal);
        paths.push({ key: pathsKey!, sets: over.sets, texts: over.texts ?? [], underlay });
      }
      // A stage that the route leaves out shows the result of another, of which it knows nothing.
      const own = stepAt(plan, pane.stage) && !draft;
      const note = own ? stageWorker(pane.stage).note?.(over ?? under) : undefined;
      if (note !== undefined) notes[pane.stage] = note;
      shown.push({ ...pane, bitmap, layers: layersOf(over ?? under), pathsKey });
    }
    const { finish } = panes.length > 0 ? canvasOf(plan, panes[0].stage) : plan.place;
    return transfer({ panes: shown, key, finish, draft, paths, notes }, [
      ...shown.map((p) => p.bitmap),
      ...paths.flatMap((p) => p.underlay?.bitmap ?? []),
    ]);
  }

  /** What is printed under a picture out to its paths, where that is a picture of its own. */
  private async underlay(
    plan: Plan,
    { stage }: Pane,
    result: Result,
    signal?: { aborted: boolean },
  ): Promise<Underlay | null> {
    const step = stepAt(plan, stage);
    const work = step && stageWorker(stage).underlay?.(result, step.settings);
    const print = work ? await drive(work, { signal, pause }) : null;
    if (!print) return null;
    const { picture, xMm: x, yMm: y, widthMm: width, heightMm: height } = print;
    const data = new Uint8ClampedArray(picture.data.buffer as ArrayBuffer);
    return {
      x,
      y,
      width,
      height,
      bitmap: await createImageBitmap(new ImageData(data, picture.width, picture.height)),
    };
  }

  /** Another picture of what is on the screen, such as the loupe's. */
  async peek(pane: Pane): Promise<Peeked | null> {
    if (!this.seen) return null;
    const { plan } = this.seen;
    const result = this.runner.kept(sightOf(plan, pane.stage).under);
    if (!result) return null;
    const { x, y, width } = partIn(pane.part, plan.place, result);
    const markedPercent =
      result.kind === "plates"
        ? markedWithin(result.plates, Math.floor(x), Math.floor(y), Math.round(width))
        : null;
    const bitmap = await this.picture(plan, result, pane);
    return transfer({ bitmap, markedPercent }, [bitmap]);
  }

  /** @param x, y  in dots */
  read(x: number, y: number): Reading | null {
    if (!this.seen) return null;
    const { plan, at } = this.seen;
    if (at.stage.canvas) return null; // what is under the pointer is a thing
    const before = plan.steps.slice(0, plan.steps.indexOf(at) + 1);
    const results = before.flatMap((step) => this.runner.kept(step) ?? []);
    return readDot(results, plan.place, x, y);
  }

  /** Puts a question to a stage's own part, about what that stage takes in. */
  async ask({ stage, name, wish }: Question): Promise<unknown> {
    if (!this.seen) return null;
    const { plan } = this.seen;
    const step = stepAt(plan, stage);
    const answer = stageWorker(stage).answers?.[name];
    if (!step || !answer) return null;
    const taken = Object.entries(step.takes).map(([port, from]) => [port, this.runner.kept(from)]);
    if (taken.some(([, result]) => !result)) return null;
    return answer(Object.fromEntries(taken) as Record<string, Result>, wish as never);
  }

  /** Results of a route that are at hand here, in memory that other workers can read; of those not in `known`. */
  share(packed: PackedRoute, known: readonly string[]): Handed[] {
    const plan = planOf(this.unpacker.unpack(packed), this.source.facts);
    return plan.steps.flatMap((step): Handed[] => {
      const kept = known.includes(step.key) ? undefined : this.runner.kept(step);
      if (!kept) return [];
      const result = shared(kept);
      if (!result) return [];
      this.runner.put(step.key, result); // so that it lies in memory once
      return [{ key: step.key, result }];
    });
  }

  take(handed: readonly Handed[]): void {
    for (const { key, result } of handed) this.runner.put(key, result);
  }

  /** Stops checks and strips; they give way to what is on the screen. */
  stop(): void {
    this.aside.aborted = true;
  }

  /** Runs the whole route, so that its results can be shared; false when it was stopped. */
  async ready(packed: PackedRoute): Promise<boolean> {
    const route = this.unpacker.unpack(packed);
    const plan = planOf(route, this.source.facts);
    const done = await this.unlessStopped(async (signal) => {
      for (const step of plan.steps)
        if (this.isHeld(step)) await this.runner.result(plan, this.source, step, { signal });
      return true;
    });
    return done !== null;
  }

  /**
   * Checks, readings and small pictures of every `of`-th stage from `part` on; the last part has the fingerprint and
   * the whole's picture too. Null when it was stopped.
   */
  async inspect(packed: PackedRoute, part: number, of: number): Promise<InspectedPart | null> {
    const route = this.unpacker.unpack(packed);
    const found = await this.unlessStopped((signal) => this.inspected(route, part, of, signal));
    return (
      found &&
      transfer(
        found,
        found.stages.map((s) => s.bitmap),
      )
    );
  }

  private async inspected(
    route: Route,
    part: number,
    of: number,
    signal: { aborted: boolean },
  ): Promise<InspectedPart> {
    const plan = planOf(route, this.source.facts);
    const stages: InspectedStage[] = [];
    for (const [k, step] of plan.steps.entries()) {
      if (k % of !== part) continue;
      const stage = step.stage.id;
      const { readings, checks } = await this.runner.inspectStep(plan, this.source, step, { signal });
      const result = await this.lookedAt(plan, step, signal);
      const bitmap = await this.picture(plan, result, wholeOf(plan, stage, baseUnder(result)), signal);
      stages.push({ stage, readings, checks: checks.map((check) => ({ ...check, stage })), bitmap });
    }
    const { key } = plan.steps[plan.steps.length - 1];
    if (part !== of - 1) return { key, stages, fingerprint: null, thumbnail: null };
    const preview = new Preview(THUMBNAIL);
    let fingerprint: string | null = null;
    for (const step of plan.steps) {
      if (!this.isHeld(step)) continue;
      const { result } = await this.runner.result(plan, this.source, step, { signal });
      fingerprint = (await drive(resultFingerprint(result), { signal, pause })) ?? fingerprint;
      preview.add(result);
    }
    const { writeRgbaPng } = await import("@hardline/core/format/png");
    const thumbnail = preview.picture && base64(runToEnd(writeRgbaPng(preview.picture, 72)));
    return { key, stages, fingerprint, thumbnail };
  }

  /** Whether a step's result is had whole: an artwork that only passes through is not. */
  private isHeld(step: Step): boolean {
    return !this.lean || !step.stage.read || this.runner.kept(step) !== undefined;
  }

  /** A result to make a small picture of: of an artwork that is not held, the half that first looks are made of. */
  private async lookedAt(plan: Plan, step: Step, signal: { aborted: boolean }): Promise<Result> {
    if (!this.isHeld(step)) {
      await readFirstLook(this.runner, plan, this.source, DRAFT_PIXELS, pause);
      const halved = this.runner.halved(step);
      if (halved) return halved;
    }
    return (await this.runner.result(plan, this.source, step, { signal })).result;
  }

  /** The same crop of several routes; null when it was stopped. */
  async strip(routes: readonly PackedRoute[], pane: Pane): Promise<Stripe[] | null> {
    const unpacked = routes.map((r) => this.unpacker.unpack(r));
    const stripes = await this.unlessStopped(async (signal) => {
      const made: Stripe[] = [];
      const draw = (plan: Plan, result: Result) => this.picture(plan, result, pane, signal);
      for (const route of unpacked)
        made.push(await stripeOf(this.runner, this.source, route, pane, draw, signal));
      return made;
    });
    return (
      stripes &&
      transfer(
        stripes,
        stripes.flatMap((s) => s.bitmap ?? []),
      )
    );
  }

  /** The dots of the same part of several routes with their labels, as one bitmap to be made on a scrap. */
  async testPiece(
    routes: readonly PackedRoute[],
    part: Rect,
    labels: readonly string[],
    title: string,
  ): Promise<string | null> {
    const unpacked = routes.map((r) => this.unpacker.unpack(r));
    return this.unlessStopped(async (signal) => {
      const png = await testPieceFor(this.runner, this.source, unpacked, part, labels, title, signal);
      return png && base64(png);
    });
  }

  private async unlessStopped<T>(act: (signal: { aborted: boolean }) => Promise<T>): Promise<T | null> {
    const signal = { aborted: false };
    this.aside = signal;
    try {
      return await act(signal);
    } catch (error) {
      if (error instanceof Aborted) return null;
      throw error;
    }
  }

  private async picture(
    plan: Plan,
    result: Result,
    pane: Pane,
    signal?: { aborted: boolean },
  ): Promise<ImageBitmap> {
    const { width, height } = pane;
    const data = await drive(painting(plan, result, pane), { signal, pause });
    return createImageBitmap(new ImageData(new Uint8ClampedArray(data.buffer as ArrayBuffer), width, height));
  }
}

function base64(bytes: Uint8Array): string {
  let text = "";
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}

export type EngineApi = Engine;
expose(new Engine());

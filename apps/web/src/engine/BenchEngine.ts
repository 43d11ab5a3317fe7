import { type ArtworkView } from "@hardline/contract";
import { type SharedJob } from "@hardline/core/hands/shareOut";
import { type Rect } from "@hardline/core/raster/types";
import { type Reading } from "@hardline/core/result/read";
import { type Route } from "@hardline/core/route/route";
import { type StageId } from "@hardline/core/stage/stages";
import { proxy, releaseProxy, type Remote } from "comlink";
import {
  type Handed,
  type Inspected,
  type InspectedPart,
  type Peeked,
  type Pane,
  type Question,
  type Shown,
  type Stripe,
} from "./protocol";
import { isLarge } from "./large";
import { takeWorker } from "./spareWorker";
import { Packer } from "./wire";
import { type EngineApi } from "../worker/worker";

export interface ShowRequest {
  readonly route: Route;
  readonly panes: readonly Pane[];
  /** A route that lies beside it. */
  readonly beside?: Route | null;
}

export interface EngineEvents {
  readonly shown: (shown: Shown, request: ShowRequest) => void;
  /** The first picture since it was opened is drawn, be it a draft. */
  readonly begun?: () => void;
  readonly progress: (share: number, stage: StageId) => void;
  /** What could not be computed, in words; null when all is well again. */
  readonly fault: (message: string | null) => void;
}

/** Workers for checks, small pictures and strips, beside the one for the screen. */
const ASIDES = 2;
/** They are started so long after the first picture: then the rest of the bench is drawn, and the exact not yet there. */
const ASIDES_AFTER_MS = 700;
const MIB = 1 << 20;
/** Workers that die so often without having shown anything are not started any more. */
const MOST_DEATHS = 3;

/** One worker thread and what it is known to hold. */
class Line {
  readonly remote: Remote<EngineApi>;
  readonly packer = new Packer();
  readonly besides = new Packer();
  readonly known = new Set<string>();
  private readonly worker: Worker;
  private opened: Promise<unknown> = Promise.resolve();

  constructor(died: () => void) {
    ({ worker: this.worker, remote: this.remote } = takeWorker());
    this.worker.onerror = died;
  }

  async take(handed: readonly Handed[]): Promise<void> {
    const news = handed.filter(({ key }) => !this.known.has(key));
    if (news.length === 0) return;
    for (const { key } of news) this.known.add(key);
    await this.remote.take(news);
  }

  open(...about: Parameters<EngineApi["open"]>): void {
    this.opened = this.remote.open(...(about as Parameters<Remote<EngineApi>["open"]>));
  }

  /** A worker that is ended while it still starts would be held by the browser for good, and the page with it. */
  end(): void {
    this.worker.onerror = null;
    const end = (): void => {
      this.remote[releaseProxy]();
      this.worker.terminate();
    };
    this.opened.then(end, end);
  }
}

/**
 * The bench's way to its workers. Of wishes for the screen only the newest counts: each is first shown as a draft,
 * which is quick, and from then on a newer one stops it; so a dragged control is followed, and nothing piles up. What
 * the screen's worker has made is lent to the others, which check it and lay variants beside it. A worker that dies is
 * replaced, and the last wish taken up again.
 */
export class BenchEngine {
  private screen!: Line;
  /** Started once there is a first picture. */
  private asides: Line[] = [];
  private begun = false;
  private waking: ReturnType<typeof setTimeout> | undefined;
  private startAsides: () => void = () => undefined;
  private draw: (shown: Shown) => void = () => undefined;
  private last: ShowRequest | null = null;
  /** The wish whose first picture is awaited; a newer one waits for that. */
  private awaited: ShowRequest | null = null;
  private next: ShowRequest | null = null;
  private newest = 0;
  /** The wish whose exact picture is still to come; 0 when there is none. */
  private atWork = 0;
  private turn: Promise<unknown> = Promise.resolve();
  private closed = false;
  /** Times that workers died one after another without a picture in between. */
  private deaths = 0;

  constructor(
    private readonly artwork: ArtworkView,
    private readonly events: EngineEvents,
  ) {
    this.start();
  }

  show(request: ShowRequest): void {
    if (this.last && isSame(this.last, request)) return;
    this.last = request;
    this.next = request;
    if (!this.awaited) this.serve();
  }

  /** The same view of another route: sent at once, before the interface has drawn itself anew. */
  showRoute(route: Route): void {
    if (this.last) this.show({ ...this.last, route });
  }

  /** Called with every picture as it comes, before anything else hears of it. */
  whenShown(draw: (shown: Shown) => void): void {
    this.draw = draw;
  }

  peek(pane: Pane): Promise<Peeked | null> {
    return this.screen.remote.peek(pane);
  }

  read(x: number, y: number): Promise<Reading | null> {
    return this.screen.remote.read(x, y);
  }

  /** Puts a question to a stage's own part of the screen's worker. */
  ask<T>(question: Question): Promise<T | null> {
    return this.screen.remote.ask(question) as Promise<T | null>;
  }

  /** Checks and readings of the whole route; null when something newer came in between. */
  inspect(route: Route): Promise<Inspected | null> {
    const wish = this.newest;
    return this.inTurn(() => this.inspectNow(route, wish));
  }

  /** The same crop of several routes, spread over the workers; null when something newer came in between. */
  strip(routes: readonly Route[], pane: Pane): Promise<Stripe[] | null> {
    const wish = this.newest;
    return this.inTurn(() => this.stripNow(routes, pane, wish));
  }

  private async inspectNow(route: Route, wish: number): Promise<Inspected | null> {
    if (wish !== this.newest) return null;
    // What is large is checked where it lies: lent, it would be there twice.
    const parts = isLarge(this.artwork)
      ? await this.partsBy([this.screen], route)
      : await this.lentParts(route, wish);
    if (wish !== this.newest || !parts || parts.some((p) => p === null)) return null;
    const stages = parts.flatMap((p) => p!.stages);
    const order = (stage: StageId) => route.stages.findIndex((s) => s.stage === stage);
    stages.sort((a, b) => order(a.stage) - order(b.stage));
    const { key, fingerprint, thumbnail } = parts[parts.length - 1]!;
    return { key, stages, checks: stages.flatMap((s) => s.checks), fingerprint, thumbnail };
  }

  /** Checks of a route's stages, spread over some workers. */
  private partsBy(lines: readonly Line[], route: Route): Promise<(InspectedPart | null)[]> {
    return Promise.all(lines.map((line, k) => line.remote.inspect(line.packer.pack(route), k, lines.length)));
  }

  /** Has what was made for the screen lent to the others, and what they still need made once. */
  private async lentParts(route: Route, wish: number): Promise<(InspectedPart | null)[] | null> {
    const [first, ...others] = this.wakeAsides();
    await first.take(await this.lent(this.screen, route));
    if (wish !== this.newest || !(await first.remote.ready(first.packer.pack(route)))) return null;
    const all = await this.lent(first, route);
    await Promise.all([...others, this.screen].map((line) => line.take(all)));
    return wish === this.newest ? this.partsBy(this.asides, route) : null;
  }

  /** The same part of several routes with labels, as one bitmap: a PNG in base64; null where it could not be made. */
  testPiece(
    routes: readonly Route[],
    part: Rect,
    labels: readonly string[],
    title: string,
  ): Promise<string | null> {
    return this.inTurn(async () => {
      const [line] = this.wakeAsides();
      for (const route of routes) await line.take(await this.lent(this.screen, route));
      return line.remote.testPiece(
        routes.map((r) => line.packer.pack(r)),
        part,
        labels,
        title,
      );
    });
  }

  private async stripNow(routes: readonly Route[], pane: Pane, wish: number): Promise<Stripe[] | null> {
    if (wish !== this.newest) return null;
    this.wakeAsides();
    const lent = (await Promise.all(routes.map((r) => this.lent(this.screen, r)))).flat();
    await Promise.all(this.asides.map((line) => line.take(lent)));
    if (wish !== this.newest) return null;
    const parts = await Promise.all(
      this.asides.map((line, k) => {
        const own = routes.filter((_, i) => i % this.asides.length === k);
        return line.remote.strip(
          own.map((r) => line.packer.pack(r)),
          pane,
        );
      }),
    );
    if (parts.some((p) => p === null)) return null;
    return routes.map((_, i) => parts[i % parts.length]![Math.floor(i / parts.length)]);
  }

  /** Checks and strips take turns on their workers: one does not stop the other, only a wish for the screen does. */
  private inTurn<T>(act: () => Promise<T>): Promise<T> {
    const mine = this.turn.then(act);
    this.turn = mine.catch(() => undefined);
    return mine;
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.waking);
    for (const line of this.lines) line.end();
  }

  private get lines(): Line[] {
    return [this.screen, ...this.asides];
  }

  /** Results of a route that a worker has and not all others know, in memory that they can read. */
  private async lent(from: Line, route: Route): Promise<Handed[]> {
    const others = this.lines.filter((line) => line !== from);
    const known = [...others[0].known].filter((key) => others.every((line) => line.known.has(key)));
    const handed = await from.remote.share(from.packer.pack(route), known);
    for (const { key } of handed) from.known.add(key);
    return handed;
  }

  private start(): void {
    const died = () => this.restart();
    this.screen = new Line(died);
    clearTimeout(this.waking);
    this.asides = [];
    this.begun = false;
    const { id, sha256, width, height, vector } = this.artwork;
    const facts = { sha256, width, height, vector };
    const first = (shown: Shown | null, wish: number): void => {
      if (wish !== this.newest) return;
      if (shown) {
        this.draw(shown);
        this.begin();
      }
      this.awaited = null;
      if (this.next) this.serve();
    };
    // Results lie in shared memory, counted by each worker that knows of them.
    const room = isLarge(facts) ? 320 * MIB : Math.max(320 * MIB, width * height * 12);
    const nobody = proxy(() => undefined);
    // It comes by a way of its own, and may come after the picture that it was on the way to.
    const progress = (share: number, stage: StageId): void => {
      if (this.atWork !== 0) this.events.progress(share, stage);
    };
    // What the screen waits for the others help with: until there is something to check they have nothing to do.
    const join = (job: SharedJob): void => {
      for (const { remote } of this.asides) void remote.joinIn(job);
    };
    this.screen.open(id, facts, room, proxy(progress), proxy(first), proxy(join));
    this.startAsides = () => {
      this.asides = Array.from({ length: ASIDES }, () => new Line(died));
      for (const line of this.asides) line.open(id, facts, room / 2, nobody, nobody, null);
    };
  }

  /** The first picture is there: soon the others are started, which would only have held it up. */
  private begin(): void {
    if (this.begun || this.closed) return;
    this.begun = true;
    if (!isLarge(this.artwork)) this.waking = setTimeout(() => this.wakeAsides(), ASIDES_AFTER_MS);
    this.events.begun?.();
  }

  private wakeAsides(): Line[] {
    clearTimeout(this.waking);
    if (this.asides.length === 0) this.startAsides();
    return this.asides;
  }

  private restart(): void {
    if (this.closed || this.deaths > MOST_DEATHS) return;
    if (++this.deaths > MOST_DEATHS) {
      this.events.fault(
        "The part of the page that computes cannot be started. Load the page again; what you set is kept.",
      );
      return;
    }
    for (const line of this.lines) line.end();
    const wish = this.next ?? this.awaited ?? this.last;
    this.awaited = null;
    this.last = null;
    this.newest++;
    this.turn = Promise.resolve();
    this.start();
    if (wish) this.show(wish);
  }

  private serve(): void {
    const request = this.next!;
    this.awaited = request;
    this.next = null;
    for (const { remote } of this.asides) void remote.stop();
    void this.serveOne(request, ++this.newest);
  }

  private async serveOne(request: ShowRequest, wish: number): Promise<void> {
    this.atWork = wish;
    try {
      const { remote, packer, besides } = this.screen;
      const beside = request.beside ? besides.pack(request.beside) : null;
      const shown = await remote.show(packer.pack(request.route), request.panes, wish, beside);
      if (wish !== this.newest || this.closed) return; // something newer is on its way
      this.atWork = 0;
      this.deaths = 0;
      this.events.fault(null);
      this.draw(shown);
      this.begin();
      this.events.shown(shown, request);
    } catch (error) {
      if (wish !== this.newest || this.closed) return;
      this.atWork = 0;
      if (this.last === request) this.last = null; // asked for again, it is tried again
      this.events.fault((error as Error).message);
    }
    this.awaited = null;
    if (this.next) this.serve();
  }
}

const isSame = (a: ShowRequest, b: ShowRequest): boolean =>
  a.route === b.route && a.beside === b.beside && JSON.stringify(a.panes) === JSON.stringify(b.panes);

import { type ArtworkView } from "@hardline/contract";
import { type Route, type StageId } from "@hardline/core";
import { proxy, releaseProxy, wrap, type Remote } from "comlink";
import {
  type Inspected,
  type Pane,
  type PickShown,
  type PickWish,
  type Reading,
  type Shown,
  type StripRequest,
} from "./protocol";
import { type EngineApi } from "./worker";

export interface ShowRequest {
  readonly route: Route;
  readonly panes: readonly Pane[];
  readonly upTo: StageId;
}

export interface EngineEvents {
  readonly shown: (shown: Shown, request: ShowRequest) => void;
  readonly progress: (share: number, stage: StageId) => void;
  /** What could not be computed, in words; null when all is well again. */
  readonly fault: (message: string | null) => void;
}

/**
 * The bench's way to its worker. Only the newest wish counts: while one is at work, later ones replace each other
 * and the last is served next. So a dragged control is followed as fast as the computation goes, and
 * nothing piles up. A worker that dies is replaced by a fresh one, which takes up the last wish.
 */
export class BenchEngine {
  private worker!: Worker;
  private remote!: Remote<EngineApi>;
  private draw: (shown: Shown) => void = () => undefined;
  private last: ShowRequest | null = null;
  private busy: ShowRequest | null = null;
  private next: ShowRequest | null = null;
  private closed = false;

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
    if (!this.busy) void this.serve();
  }

  /** The same view of another route: sent at once, before the interface has drawn itself anew. */
  showRoute(route: Route): void {
    if (this.last) this.show({ ...this.last, route });
  }

  /** Called with every picture as it comes, before anything else hears of it. */
  whenShown(draw: (shown: Shown) => void): void {
    this.draw = draw;
  }

  look(pane: Pane): Promise<ImageBitmap | null> {
    return this.remote.look(pane);
  }

  read(x: number, y: number): Promise<Reading | null> {
    return this.remote.read(x, y);
  }

  pickAt(wish: PickWish): Promise<PickShown | null> {
    return this.remote.pickAt(wish);
  }

  paperAt(x: number, y: number, light: "even" | "uneven"): Promise<string | null> {
    return this.remote.paperAt(x, y, light);
  }

  inspect(route: Route): Promise<Inspected | null> {
    return this.remote.inspect(route);
  }

  strip(request: StripRequest): Promise<ImageBitmap[] | null> {
    return this.remote.strip(request);
  }

  close(): void {
    this.closed = true;
    this.remote[releaseProxy]();
    this.worker.terminate();
  }

  private start(): void {
    this.worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    this.remote = wrap<EngineApi>(this.worker);
    this.worker.onerror = () => this.restart();
    const { id, sha256, width, height, vector } = this.artwork;
    void this.remote.open(
      id,
      { sha256, width, height, vector },
      proxy(this.events.progress),
      proxy((shown: Shown) => this.busy && this.draw(shown)),
    );
  }

  private restart(): void {
    if (this.closed) return;
    this.worker.terminate();
    const wish = this.next ?? this.busy ?? this.last;
    this.busy = null;
    this.last = null;
    this.start();
    if (wish) this.show(wish);
  }

  private async serve(): Promise<void> {
    while (this.next && !this.closed) {
      const request = this.next;
      this.busy = request;
      this.next = null;
      const { remote } = this;
      try {
        const shown = await remote.show(request.route, request.panes, request.upTo);
        if (remote !== this.remote) return; // a fresh worker has taken over
        this.events.fault(null);
        this.draw(shown);
        this.events.shown(shown, request);
      } catch (error) {
        if (remote !== this.remote || this.closed) return;
        if (this.last === request) this.last = null; // asked for again, it is tried again
        this.events.fault((error as Error).message);
      }
    }
    this.busy = null;
  }
}

const isSame = (a: ShowRequest, b: ShowRequest): boolean =>
  a.route === b.route && a.upTo === b.upTo && JSON.stringify(a.panes) === JSON.stringify(b.panes);

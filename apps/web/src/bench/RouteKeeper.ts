import { type RouteView } from "@hardline/contract";
import { canonical, type Route } from "@hardline/core";
import { Offline, Refusal } from "../api/client";

export type SaveState = "saved" | "saving" | "offline" | "conflict";

export interface Kept {
  /** The route as it is on this bench. */
  readonly route: Route;
  /** The route as the server last told. */
  readonly view: RouteView;
  readonly state: SaveState;
  /** At a conflict: the route as somebody else left it. */
  readonly theirs: RouteView | null;
}

/** How the keeper reaches the server. */
export interface RouteServer {
  readonly save: (version: number, route: Route) => Promise<RouteView>;
  readonly undo: (version: number) => Promise<RouteView>;
  readonly redo: (version: number) => Promise<RouteView>;
}

/** Where unsaved changes wait, so that neither a lost connection nor a closed window loses them. */
export type Shelf = Pick<Storage, "getItem" | "setItem" | "removeItem">;

const SETTLE_MS = 350;
const RETRY_MS = 3000;
const SHELF_MS = 150;

/**
 * Keeps one route safe: shows every change at once, saves it as a revision when the hand rests, holds on to it
 * while the server is away, and asks when somebody else changed the route meanwhile.
 */
export class RouteKeeper {
  private kept: Kept;
  private dirty = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private shelving: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<void> | null = null;
  private readonly listeners = new Set<() => void>();

  constructor(
    view: RouteView,
    private readonly server: RouteServer,
    private readonly shelf: Shelf,
  ) {
    this.kept = { route: view.route, view, state: "saved", theirs: null };
    this.takeFromShelf(view);
  }

  readonly get = (): Kept => this.kept;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  change(route: Route): void {
    if (isSame(route, this.kept.route)) return;
    this.dirty = true;
    this.set({ route, state: this.kept.state === "conflict" ? "conflict" : "saving" });
    this.after(SETTLE_MS);
    // Not at every move of a hand: strokes can be long, and storage is written at once.
    this.shelving ??= setTimeout(this.putOnShelf, SHELF_MS);
  }

  /** Puts what is unsaved where it outlives the window. */
  readonly putOnShelf = (): void => {
    clearTimeout(this.shelving);
    this.shelving = undefined;
    if (!this.dirty) return;
    const { view, route } = this.kept;
    this.shelf.setItem(this.shelfKey, JSON.stringify({ version: view.version, route }));
  };

  /** Sends what is unsaved now. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    while (this.sending) await this.sending;
    if (!this.dirty || this.kept.state === "conflict") return;
    this.sending = this.send();
    await this.sending;
    this.sending = null;
    if (this.dirty && this.kept.state === "saving") this.after(SETTLE_MS);
  }

  undo(): Promise<void> {
    return this.step("undo");
  }

  redo(): Promise<void> {
    return this.step("redo");
  }

  /** At a conflict: this bench's route becomes the next revision; theirs stays before it. */
  async keepMine(): Promise<void> {
    if (!this.kept.theirs) return;
    this.dirty = true;
    this.set({ view: this.kept.theirs, theirs: null, state: "saving" });
    await this.flush();
  }

  /** At a conflict: the other's route is taken; this bench's unsaved change is let go. */
  takeTheirs(): void {
    if (this.kept.theirs) this.settle(this.kept.theirs);
  }

  close(): void {
    clearTimeout(this.timer);
    this.putOnShelf();
    void this.flush();
  }

  private async step(which: "undo" | "redo"): Promise<void> {
    await this.flush();
    if (this.kept.state !== "saved") return;
    await this.ask(async () => this.settle(await this.server[which](this.kept.view.version)));
  }

  private async send(): Promise<void> {
    const { route, view } = this.kept;
    this.dirty = false;
    this.set({ state: "saving" });
    await this.ask(async () => {
      const saved = await this.server.save(view.version, route);
      if (this.dirty) this.set({ view: saved });
      else this.settle({ ...saved, route });
    });
  }

  private async ask(act: () => Promise<void>): Promise<void> {
    try {
      await act();
    } catch (error) {
      this.dirty = true;
      if (error instanceof Refusal && error.problem.status === 409) {
        this.set({ state: "conflict", theirs: error.problem.current as RouteView });
      } else if (error instanceof Offline || error instanceof Refusal) {
        this.set({ state: "offline" });
        this.after(RETRY_MS);
      } else throw error;
    }
  }

  private settle(view: RouteView): void {
    this.dirty = false;
    clearTimeout(this.shelving);
    this.shelving = undefined;
    this.shelf.removeItem(this.shelfKey);
    this.set({ route: view.route, view, state: "saved", theirs: null });
  }

  private after(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), ms);
  }

  private takeFromShelf(view: RouteView): void {
    const left = this.shelf.getItem(this.shelfKey);
    if (!left) return;
    try {
      const { version, route } = JSON.parse(left) as { version: number; route: Route };
      this.dirty = true;
      this.kept = { ...this.kept, route, state: "saving", view: { ...view, version } };
      this.after(0); // an older version here comes back as a conflict, and is asked about
    } catch {
      this.shelf.removeItem(this.shelfKey);
    }
  }

  private get shelfKey(): string {
    return `hardline.unsaved.${this.kept.view.id}`;
  }

  private set(change: Partial<Kept>): void {
    this.kept = { ...this.kept, ...change };
    for (const listener of this.listeners) listener();
  }
}

/** Stages that nobody touched are the very same; only others have to be compared. */
function isSame(a: Route, b: Route): boolean {
  if (a === b) return true;
  const { stages: own, ...rest } = a;
  const { stages: other, ...others } = b;
  return (
    own.length === other.length &&
    own.every((s, k) => s === other[k] || canonical(s) === canonical(other[k])) &&
    canonical(rest) === canonical(others)
  );
}

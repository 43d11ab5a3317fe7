import { type RouteView } from "@hardline/contract";
import { canonical, type Route } from "@hardline/core";
import { Offline, Refusal } from "../api/client";

export type SaveState = "saved" | "saving" | "offline" | "refused" | "conflict";

export interface Kept {
  /** The route as it is on this bench. */
  readonly route: Route;
  /** The route as the server last told. */
  readonly view: RouteView;
  readonly state: SaveState;
  /** At a conflict: the route as somebody else left it. */
  readonly theirs: RouteView | null;
  /** Why the server will not have it as it is. */
  readonly reason: string | null;
}

/** How the keeper reaches the server. */
export interface RouteServer {
  readonly get: () => Promise<RouteView>;
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
  /** What goes to the server goes one after another. */
  private line: Promise<void> = Promise.resolve();
  private readonly listeners = new Set<() => void>();

  constructor(
    view: RouteView,
    private readonly server: RouteServer,
    private readonly shelf: Shelf,
  ) {
    this.kept = { route: view.route, view, state: "saved", theirs: null, reason: null };
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
    this.set({ route, state: this.kept.state === "conflict" ? "conflict" : "saving", reason: null });
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
    try {
      this.shelf.setItem(this.shelfKey, JSON.stringify({ version: view.version, route }));
    } catch {
      // The shelf is full: the change is shown and goes to the server all the same; an older one must not come back.
      this.shelf.removeItem(this.shelfKey);
    }
  };

  /** Sends what is unsaved now. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    return this.inLine(() => this.sendUnsaved());
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

  private inLine(act: () => Promise<void>): Promise<void> {
    const mine = this.line.then(act);
    this.line = mine.catch(() => undefined);
    return mine;
  }

  private step(which: "undo" | "redo"): Promise<void> {
    clearTimeout(this.timer);
    return this.inLine(async () => {
      await this.sendUnsaved();
      if (this.kept.state !== "saved") return;
      await this.ask(
        () => this.server[which](this.kept.view.version),
        // It may have been done, or not; the next look at the server tells.
        () => this.catchUp(),
      );
    });
  }

  private async sendUnsaved(): Promise<void> {
    const { route, view, state } = this.kept;
    if (!this.dirty || state === "conflict") return;
    this.dirty = false;
    this.set({ state: "saving" });
    await this.ask(
      async () => ({ ...(await this.server.save(view.version, route)), route }),
      () => {
        this.dirty = true;
        this.after(RETRY_MS);
      },
    );
  }

  /** @param again  called when the server was away */
  private async ask(act: () => Promise<RouteView>, again: () => void): Promise<void> {
    try {
      this.took(await act());
    } catch (error) {
      if (error instanceof Refusal && error.problem.status === 409) {
        this.dirty = true;
        this.set({ state: "conflict", theirs: error.problem.current as RouteView });
      } else if (error instanceof Offline || (error instanceof Refusal && error.problem.status >= 500)) {
        this.set({ state: "offline" });
        again();
      } else if (error instanceof Refusal) {
        // Sent again it would be refused again; the next change may mend it.
        this.dirty = true;
        this.set({ state: "refused", reason: error.problem.detail });
      } else throw error;
    }
  }

  /** Takes what the server answered; what was changed meanwhile stays, and is saved after it. */
  private took(view: RouteView): void {
    if (this.dirty) this.set({ view });
    else this.settle(view);
  }

  private catchUp(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      void this.inLine(() =>
        this.ask(
          () => this.server.get(),
          () => this.catchUp(),
        ),
      );
    }, RETRY_MS);
  }

  private settle(view: RouteView): void {
    this.dirty = false;
    clearTimeout(this.shelving);
    this.shelving = undefined;
    this.shelf.removeItem(this.shelfKey);
    this.set({ route: view.route, view, state: "saved", theirs: null, reason: null });
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

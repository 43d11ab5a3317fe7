import { Offline, Refusal } from "../api/client";

export type SaveState = "saved" | "saving" | "offline" | "refused" | "conflict";

export interface Kept<Value, View> {
  /** What is kept, as it is here. */
  readonly value: Value;
  /** What is kept, as the server last told. */
  readonly view: View;
  readonly state: SaveState;
  /** At a conflict: as somebody else left it. */
  readonly theirs: View | null;
  /** Why the server will not have it as it is. */
  readonly reason: string | null;
}

/** What the server tells of what is kept. Every change names the version that it was made on. */
export interface Versioned {
  readonly id: string;
  readonly version: number;
}

/** How a keeper reaches the server. */
export interface KeepingServer<Value, View> {
  readonly get: () => Promise<View>;
  readonly save: (version: number, value: Value) => Promise<View>;
}

/** What a keeper must know of what it keeps. */
export interface KeptKind<Value, View> {
  /** What it is called on the shelf. */
  readonly name: string;
  readonly valueOf: (view: View) => Value;
  readonly withValue: (view: View, value: Value) => View;
  readonly isSame: (a: Value, b: Value) => boolean;
  /** Two changes of what both began with as one; null where something cannot be had both ways. */
  readonly merged?: (base: Value, mine: Value, theirs: Value) => Value | null;
}

export type Met<Value> = (was: Value, now: Value) => void;

/** Where unsaved changes wait, so that neither a lost connection nor a closed window loses them. */
export type Shelf = Pick<Storage, "getItem" | "setItem" | "removeItem">;

const SETTLE_MS = 350;
const RETRY_MS = 3000;
const SHELF_MS = 150;

/** A fault of the server's, or nobody signed in: sent again later it may be taken. */
const canChange = (status: number): boolean => status >= 500 || status === 401;

/**
 * Keeps one thing safe that is changed here and saved on the server: shows every change at once, saves it when the hand
 * rests, holds on to it while the server is away, and asks when somebody else changed it meanwhile.
 */
export class Keeper<Value, View extends Versioned> {
  protected kept: Kept<Value, View>;
  private dirty = false;
  /** What is unsaved here was begun with what `view` says: unknown of what waited on the shelf while the server went on. */
  private begunHere = true;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private shelving: ReturnType<typeof setTimeout> | undefined;
  /** What goes to the server goes one after another. */
  private line: Promise<void> = Promise.resolve();
  private readonly listeners = new Set<() => void>();
  private readonly meeting = new Set<Met<Value>>();

  constructor(
    private readonly kind: KeptKind<Value, View>,
    view: View,
    protected readonly server: KeepingServer<Value, View>,
    private readonly shelf: Shelf,
  ) {
    this.kept = { value: kind.valueOf(view), view, state: "saved", theirs: null, reason: null };
    this.takeFromShelf(view);
  }

  readonly get = (): Kept<Value, View> => this.kept;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Told of what somebody else changed, once it is here: as it was, and as it is. */
  readonly onMet = (listener: Met<Value>): (() => void) => {
    this.meeting.add(listener);
    return () => this.meeting.delete(listener);
  };

  change(value: Value): void {
    if (this.kind.isSame(value, this.kept.value)) return;
    this.dirty = true;
    this.set({ value, state: this.kept.state === "conflict" ? "conflict" : "saving", reason: null });
    this.after(SETTLE_MS);
    // Not at every move of a hand: strokes can be long, and storage is written at once.
    this.shelving ??= setTimeout(this.putOnShelf, SHELF_MS);
  }

  /** Puts what is unsaved where it outlives the window. */
  readonly putOnShelf = (): void => {
    clearTimeout(this.shelving);
    this.shelving = undefined;
    if (!this.dirty) return;
    const { view, value } = this.kept;
    try {
      this.shelf.setItem(this.shelfKey, JSON.stringify({ version: view.version, value }));
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

  /** Something asked of the server was refused since it has another version than the one here: that is shown. */
  refused(error: unknown): void {
    if (!(error instanceof Refusal) || error.problem.status !== 409 || !error.problem.current) return;
    this.meet(error.problem.current as View);
  }

  /** What somebody else left is taken; what is unsaved here is put on it where both can be had, and asked about where not. */
  private meet(theirs: View): void {
    const was = this.kind.valueOf(this.kept.view);
    const now = this.kind.valueOf(theirs);
    if (!this.dirty) {
      this.settle(theirs);
      for (const listener of this.meeting) listener(was, now);
      return;
    }
    const both = this.begunHere ? (this.kind.merged?.(was, this.kept.value, now) ?? null) : null;
    if (both === null) return this.set({ state: "conflict", theirs });
    this.set({ view: theirs, value: both, state: "saving", theirs: null });
    for (const listener of this.meeting) listener(was, now);
    this.after(0);
  }

  /** Somebody has changed it: it is shown, and what is unsaved here goes on where both can be had. */
  heard(version: number): Promise<void> {
    if (version <= this.kept.view.version) return Promise.resolve();
    return this.inLine(async () => {
      if (version <= this.kept.view.version || this.kept.state === "conflict") return;
      try {
        this.meet(await this.server.get());
      } catch (error) {
        // Not heard now, it is heard with the next save.
        if (!(error instanceof Offline || error instanceof Refusal)) throw error;
      }
    });
  }

  /** At a conflict: what is here is saved after theirs. */
  async keepMine(): Promise<void> {
    if (!this.kept.theirs) return;
    this.dirty = true;
    this.begunHere = true;
    this.set({ view: this.kept.theirs, theirs: null, state: "saving" });
    await this.flush();
  }

  /** At a conflict: the other's is taken; the unsaved change here is let go. */
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

  /** Does something else on the server, once what is unsaved is saved. */
  protected step(act: (version: number) => Promise<View>): Promise<void> {
    clearTimeout(this.timer);
    return this.inLine(async () => {
      await this.sendUnsaved();
      if (this.kept.state !== "saved") return;
      await this.ask(
        () => act(this.kept.view.version),
        // It may have been done, or not; the next look at the server tells.
        () => this.catchUp(),
      );
    });
  }

  private async sendUnsaved(): Promise<void> {
    const { value, view, state } = this.kept;
    if (!this.dirty || state === "conflict") return;
    this.dirty = false;
    this.set({ state: "saving" });
    await this.ask(
      async () => this.kind.withValue(await this.server.save(view.version, value), value),
      () => {
        this.dirty = true;
        this.after(RETRY_MS);
      },
      true,
    );
  }

  /**
   * @param again   called when the server was away
   * @param isSave  what is unsaved here was sent, and is unsaved still where it was refused
   */
  private async ask(act: () => Promise<View>, again: () => void, isSave = false): Promise<void> {
    try {
      this.took(await act());
    } catch (error) {
      if (error instanceof Refusal && error.problem.status === 409) {
        this.dirty ||= isSave;
        this.meet(error.problem.current as View);
      } else if (error instanceof Offline || (error instanceof Refusal && canChange(error.problem.status))) {
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
  private took(view: View): void {
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

  private settle(view: View): void {
    this.dirty = false;
    this.begunHere = true;
    clearTimeout(this.shelving);
    this.shelving = undefined;
    this.shelf.removeItem(this.shelfKey);
    this.set({ value: this.kind.valueOf(view), view, state: "saved", theirs: null, reason: null });
  }

  private after(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), ms);
  }

  private takeFromShelf(view: View): void {
    const left = this.shelf.getItem(this.shelfKey);
    if (!left) return;
    try {
      const { version, value } = JSON.parse(left) as { version: number; value?: Value };
      if (value === undefined) return this.shelf.removeItem(this.shelfKey);
      this.dirty = true;
      this.begunHere = version === view.version;
      this.kept = { ...this.kept, value, state: "saving", view: { ...view, version } };
      this.after(0); // an older version here comes back as a conflict, and is asked about
    } catch {
      this.shelf.removeItem(this.shelfKey);
    }
  }

  private get shelfKey(): string {
    return `hardline.unsaved.${this.kind.name}.${this.kept.view.id}`;
  }

  private set(change: Partial<Kept<Value, View>>): void {
    this.kept = { ...this.kept, ...change };
    for (const listener of this.listeners) listener();
  }
}

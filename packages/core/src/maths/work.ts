/**
 * Long computation in small slices: a generator that yields how far it is, 0..1, every few milliseconds,
 * and returns its result. Whoever drives it decides when to pause, report or stop; the computation
 * itself needs neither clock nor event loop.
 */
export type Work<T> = Generator<number, T, void>;

/** Runs a computation to its end without pausing. */
export function runToEnd<T>(work: Work<T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

/** A computation that is one slice of a longer one: its 0..1 becomes `from`..`to`. */
export function* workSlice<T>(work: Work<T>, from: number, to: number): Work<T> {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    yield from + (to - from) * step.value;
  }
}

/** Rows that make up about half a million pixels, the usual slice between two yields: some ten milliseconds. */
export const rowsAtOnce = (width: number): number => Math.max(1, Math.floor(524288 / width));

/**
 * Numbers looked at between two slices where each is little work. No more, because a loop that is not yet compiled,
 * or must be compiled anew because what it meets turned out otherwise, takes twenty times as long for each.
 */
const AT_ONCE = 1 << 18;

/** Acts on stretches of 0..count, each a few milliseconds of little work a number. */
export function* inStretches(
  count: number,
  act: (from: number, to: number) => void,
  atOnce = AT_ONCE,
): Work<void> {
  for (let from = 0; from < count; from += atOnce) {
    yield from / count;
    act(from, Math.min(count, from + atOnce));
  }
}

/** How whoever writes files has long work done: in the host's slices. */
export type Doing = <T>(work: Work<T>) => Promise<T>;

export interface Drive {
  /** Stops the computation at the next slice when aborted. */
  readonly signal?: AbortSignalLike;
  readonly progress?: (share: number) => void;
  /** Lets the host do other things between two slices. */
  readonly pause?: () => Promise<void>;
}

/** What is needed of the platform's AbortSignal. */
export interface AbortSignalLike {
  readonly aborted: boolean;
}

export class Aborted extends Error {
  constructor() {
    super("the computation was stopped");
    this.name = "AbortError";
  }
}

/**
 * Runs a computation slice by slice.
 * @throws Aborted as soon as the signal is seen to be aborted
 */
export async function drive<T>(work: Work<T>, { signal, progress, pause }: Drive = {}): Promise<T> {
  try {
    for (;;) {
      if (signal?.aborted) throw new Aborted();
      const step = work.next();
      if (step.done) return step.value;
      progress?.(step.value);
      if (pause) await pause();
    }
  } finally {
    work.return(undefined as T); // what it took it gives back, also when it was stopped
  }
}

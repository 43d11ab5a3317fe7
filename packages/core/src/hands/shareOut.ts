import { workSlice, type Work } from "../maths/work";

/**
 * A computation in parts of which none needs another's result, so that several threads can take one after another. They
 * know it by its name; what it reads and writes lies in memory that all of them see.
 */
export interface Shareable<G extends object> {
  readonly name: string;
  /** Sets up what all parts need, and does one after another. A part done twice comes to the same. */
  readonly begin: (given: G) => (part: number) => Work<void>;
}

/** What threads are told of a computation that is shared out. */
export interface SharedJob {
  readonly name: string;
  /** Numbers, words and arrays in shared memory. */
  readonly given: object;
  /** The next part that nobody has taken; then for each part whether it is open, done or was dropped. */
  readonly claims: Int32Array<SharedArrayBuffer>;
}

/** Threads that take parts of a job, as many as they get to; it is done without them just the same. */
export interface Hands {
  readonly join: (job: SharedJob) => void;
}

const [DONE, DROPPED] = [1, 2];
/** How long a part that another thread has taken is waited for, in milliseconds and looks: then it is done here. */
const LOOK_MS = 10;
const MOST_LOOKS = 200;

let lent: Hands | null = null;

/** Lends this thread others' hands; null takes them back. Results are the same bits with them and without. */
export function lend(hands: Hands | null): void {
  lent = hands;
}

/** Room for a result: seen by other threads where any may help with it. */
export const roomFor = (bytes: number): ArrayBuffer | SharedArrayBuffer =>
  lent ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes);

/** Whether others may help with what reads and writes these. */
export const isShareable = (...arrays: readonly ArrayBufferView[]): boolean =>
  lent !== null && arrays.every(({ buffer }) => buffer instanceof SharedArrayBuffer);

/** Does all parts of a computation, with whatever hands are lent. */
export function* shareOut<G extends object>(computation: Shareable<G>, given: G, parts: number): Work<void> {
  const claims = new Int32Array(new SharedArrayBuffer(4 * (1 + parts)));
  lent?.join({ name: computation.name, given, claims });
  const act = computation.begin(given);
  try {
    for (let part = take(claims); part < parts; part = take(claims)) {
      yield* workSlice(act(part), part / parts, (part + 1) / parts);
      claims[1 + part] = DONE;
    }
    // What others still have in hand: a part of some milliseconds, unless the thread is held up, or is no more.
    for (let part = 0, looks = 0; part < parts; part++) {
      for (; claims[1 + part] === 0 && looks < MOST_LOOKS; looks++) {
        yield 1;
        Atomics.wait(claims, 1 + part, 0, LOOK_MS);
      }
      if (claims[1 + part] !== DONE) yield* act(part);
    }
  } finally {
    Atomics.store(claims, 0, parts); // stopped or done, nobody begins on another part
  }
}

/** Takes parts of a job that another thread shares out, until there are no more. */
export function* joinIn({ name, given, claims }: SharedJob, known: readonly Shareable<never>[]): Work<void> {
  const parts = claims.length - 1;
  let act: ((part: number) => Work<void>) | null = null;
  for (let part = take(claims); part < parts; part = take(claims)) {
    let came = DROPPED;
    try {
      act ??= known.find((c) => c.name === name)!.begin(given as never);
      yield* act(part);
      came = DONE;
    } finally {
      Atomics.store(claims, 1 + part, came);
      Atomics.notify(claims, 1 + part);
    }
  }
}

const take = (claims: Int32Array): number => Atomics.add(claims, 0, 1);

import { type MessageEvent } from "@nestjs/common";
import { distinctUntilChanged, exhaustMap, from, map, takeWhile, timer, type Observable } from "rxjs";

interface Followed<T> {
  readonly read: () => Promise<T>;
  /** What of it is told: a new word is sent when this is another. */
  readonly seen: (value: T) => string;
  readonly ended: (value: T) => boolean;
  /** Between two looks, in milliseconds. */
  readonly everyMs: number;
}

/** Server-sent events of something each time it changes, the last when it has ended. */
export const followed = <T extends object>({
  read,
  seen,
  ended,
  everyMs,
}: Followed<T>): Observable<MessageEvent> =>
  timer(0, everyMs).pipe(
    exhaustMap(() => from(read())),
    distinctUntilChanged((a, b) => seen(a) === seen(b)),
    takeWhile((value) => !ended(value), true),
    map((data) => ({ data })),
  );

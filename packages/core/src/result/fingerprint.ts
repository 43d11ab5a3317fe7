import { dotsFingerprint, fingerprint, textFingerprint } from "../raster/fingerprint";
import { type Work } from "../maths/work";
import { type Result } from "./result";

/**
 * What tells two results of a route apart, whatever files they are written to: of plates their dots, of paths their
 * points. A single plate has its dots' own fingerprint. Null for kinds that are not sent as they are.
 */
export function* resultFingerprint(result: Result): Work<string | null> {
  switch (result.kind) {
    case "plates": {
      const each: string[] = [];
      for (const { bits } of result.plates) each.push(yield* dotsFingerprint(bits));
      return each.length === 1 ? each[0] : fingerprint(each.join("\n"));
    }
    case "paths":
      return yield* textFingerprint(
        result.sets.flatMap(({ name, points, starts }, k) => [
          () => `${k > 0 ? "\n" : ""}${name}\n`,
          ...numbersIn(points),
          () => "\n",
          ...numbersIn(starts),
        ]),
      );
    default:
      return null;
  }
}

/** Numbers written between two slices. */
const AT_ONCE = 1 << 13;

/** Numbers with a space between them, a stretch at a time. */
function* numbersIn(list: Float64Array | Uint32Array): Iterable<() => string> {
  for (let at = 0; at < list.length; at += AT_ONCE)
    yield () => `${at > 0 ? " " : ""}${list.subarray(at, at + AT_ONCE).join(" ")}`;
}

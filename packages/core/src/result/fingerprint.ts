import { dotsFingerprint, fingerprint } from "../raster/fingerprint";
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
      return fingerprint(
        result.sets
          .map(({ name, points, starts }) => `${name}\n${points.join(" ")}\n${starts.join(" ")}`)
          .join("\n"),
      );
    default:
      return null;
  }
}

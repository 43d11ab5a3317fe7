import { ClipperOffset, EndType, JoinType, type Paths64 } from "clipper2-ts";
import { fromUnits, toUnits, UNITS_PER_MM } from "./clip";
import { type Ring } from "./rings";

const MITRE_LIMIT = 4;
/** An arc strays from the circle by this at most, in mm. */
const ARC_MM = 0.002;

/**
 * All that lies within half a width of a line.
 *
 * @param line  x, y of every corner in mm; of a closed one without its first again
 * @param ends  how an open line ends: with half a disc, or straight at its end
 */
export function strokeOf(
  line: Float64Array,
  widthMm: number,
  closed: boolean,
  ends: "round" | "flat",
): Ring[] {
  const work = new ClipperOffset(MITRE_LIMIT, ARC_MM * UNITS_PER_MM);
  const end = closed ? EndType.Joined : ends === "round" ? EndType.Round : EndType.Butt;
  work.addPaths(toUnits([line]), JoinType.Round, end);
  const out: Paths64 = [];
  work.execute((widthMm / 2) * UNITS_PER_MM, out);
  return fromUnits(out);
}

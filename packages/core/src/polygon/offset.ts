import { ClipperOffset, EndType, JoinType, ramerDouglasPeuckerPaths, type Paths64 } from "clipper2-ts";
import { fromUnits, toUnits, UNITS_PER_MM } from "./clip";
import { type Ring, type Rings } from "./rings";
import { type Move } from "./sweep";

/** What is put where the moved sides of a corner part: an arc, their meeting, or a straight piece. */
export type Join = "round" | "mitre" | "bevel";

const JOINS: Record<Join, JoinType> = {
  round: JoinType.Round,
  mitre: JoinType.Miter,
  bevel: JoinType.Bevel,
};

/** A mitre goes no further out than so many times the offset; a sharper corner is cut off square. */
export const MITRE_LIMIT = 4;
/** An arc strays from the circle by this at most, in mm: a twelfth of a plotter's step; of outlines of many corners, a fourth. */
const [ARC_MM, ARC_OF_MANY_MM] = [0.002, 0.006];
const MANY = 6000;

/**
 * An area grown by a distance, or made smaller by it: its boundary moved along its own square direction.
 *
 * @param byMm  outwards above 0, inwards below
 * @see Chen & McMains, "Polygon offsetting by computing winding numbers", ASME DETC 2005
 */
export function offset(rings: Rings, byMm: number, join: Join = "round"): Ring[] {
  if (byMm === 0) return [...rings];
  const { move, plainer } = moveOf(rings, byMm, join);
  const work = new ClipperOffset(move.mitreLimit, move.arc);
  work.addPaths(toUnits(rings), move.join, EndType.Polygon);
  const out: Paths64 = [];
  work.execute(move.by, out);
  return fromUnits(plainer(out));
}

/**
 * How the library is to move rings, and what is left out of what it gives.
 *
 * @param arcMm  how far an arc may stray, for a first look; left out, as fine as it is handed over
 */
export function moveOf(rings: Rings, byMm: number, join: Join, arcMm?: number) {
  const many = arcMm !== undefined || rings.reduce((sum, ring) => sum + ring.length / 2, 0) > MANY;
  const arc = (arcMm ?? (many ? ARC_OF_MANY_MM : ARC_MM)) * UNITS_PER_MM;
  const move: Move = { by: byMm * UNITS_PER_MM, join: JOINS[join], mitreLimit: MITRE_LIMIT, arc };
  // Every corner becomes an arc of many; what says nothing more is left out, or the next move takes its square as long.
  return { move, plainer: (out: Paths64) => (many ? ramerDouglasPeuckerPaths(out, arc / 2) : out) };
}

/** What a disc of a radius reaches without leaving the area: thinner parts and outer corners of a smaller radius go. */
export const opened = (rings: Rings, radiusMm: number): Ring[] => offset(offset(rings, -radiusMm), radiusMm);

/** The area with whatever no disc of a radius reaches from outside: dents, slits and inner corners of a smaller radius. */
export const closed = (rings: Rings, radiusMm: number): Ring[] => offset(offset(rings, radiusMm), -radiusMm);

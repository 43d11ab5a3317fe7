import { boxTurnedOn, pointTurnedOn, type Quarter } from "../../raster/turn";
import { type ClearOp, type ClearSettings } from "./settings";

type Pair = [number, number];
const BY_STROKES = ["strokes", "keep", "away"] as const;

/** Clear's settings for an artwork that is turned further: what was placed on it stays on what it was placed on. */
export function clearTurnedOn(settings: ClearSettings, further: Quarter): ClearSettings {
  return { ...settings, ops: settings.ops.map((op) => opTurnedOn(op, further)) };
}

function opTurnedOn(op: ClearOp, further: Quarter): ClearOp {
  const at = (point: readonly number[]): Pair => pointTurnedOn(point as unknown as Pair, further);
  const out: Record<string, unknown> = { ...op };
  if (op.op === "pick") out.at = at(op.at);
  if (op.op === "gaps") out.but = op.but.map(at);
  if (op.op === "path") {
    // Handles are offsets: they turn about nothing.
    const zero = at([0, 0]);
    const offset = (v: Pair | undefined): Pair | undefined => {
      if (!v) return undefined;
      const [x, y] = at(v);
      return [x - zero[0], y - zero[1]];
    };
    out.box = boxTurnedOn(op.box, further);
    out.knots = op.knots.map((k) => ({
      at: at(k.at),
      ...(k.in && { in: offset(k.in as Pair) }),
      ...(k.out && { out: offset(k.out as Pair) }),
    }));
  }
  for (const name of BY_STROKES) {
    const strokes = out[name];
    if (!Array.isArray(strokes)) continue;
    out[name] = (strokes as readonly { points: number[][] }[]).map((stroke) => ({
      ...stroke,
      points: stroke.points.map((p) => [...at(p), ...p.slice(2)]),
    }));
  }
  return out as unknown as ClearOp;
}

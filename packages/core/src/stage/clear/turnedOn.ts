import { type FurtherTurn } from "../../turn/further";
import { type ClearOp, type ClearSettings } from "./settings";

type Pair = [number, number];
const BY_STROKES = ["strokes", "keep", "away"] as const;

/** Clear's settings for an artwork that is turned further: what was placed on it stays on what it was placed on. */
export function clearTurnedOn(settings: ClearSettings, by: FurtherTurn): ClearSettings {
  return { ...settings, ops: settings.ops.map((op) => opTurnedOn(op, by)) };
}

function opTurnedOn(op: ClearOp, by: FurtherTurn): ClearOp {
  const at = (point: readonly number[]): Pair => by.at(point as unknown as Pair);
  const out: Record<string, unknown> = { ...op };
  if (op.op === "pick") out.at = at(op.at);
  if (op.op === "back" || op.op === "through") out.at = op.at.map(at);
  if (op.op === "gaps") out.but = op.but.map(at);
  if (op.op === "path") {
    out.box = by.box(op.box);
    out.knots = op.knots.map((k) => ({
      at: at(k.at),
      ...(k.in && { in: by.offset(k.in, k.at) }),
      ...(k.out && { out: by.offset(k.out, k.at) }),
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

import { type Work } from "../../../maths/work";
import { HpglReader } from "../../hpgl";
import { type ProgramLines } from "../../programLines";
import { type Resumed, type Standing } from "../../resume";
import { UNITS } from "./plan";
import { type KnifeCutter } from "./profile";

/** A plot stands by its units and its pass; a line half cut is lowered again where the blade came up. */
export function* resumedPlot(
  lines: ProgramLines,
  { line, x, y, left }: Standing,
  machine: KnifeCutter,
): Work<Resumed> {
  if (line < 2) return { say: [], instead: null };
  const units = lines.text(1).replaceAll("OA;", "");
  let pass = "";
  for (let k = line - 1; k > 1 && !pass; k--) pass = /SP\d+;VS[\d.]+;/.exec(lines.text(k))?.[0] ?? "";
  const say = [`${units}${pass}`];
  const reader = new HpglReader(machine);
  reader.read(units, 1);
  const { moves } = reader.read(lines.text(line), line + 1);
  // Nothing was cut before the blade was down and had gone on.
  const from = moves.length - left;
  const cut = moves.findIndex((m) => m.power > 0);
  if (left === 0 || cut < 0 || from < cut) return { say, instead: null };
  const place = (px: number, py: number): string => `${Math.round(px * UNITS)},${Math.round(py * UNITS)}`;
  const rest = moves.slice(from).filter((m) => m.power > 0);
  if (rest.length === 0) return { say, instead: "PU;OA;" };
  return { say, instead: `PU${place(x, y)};PD${rest.map((m) => place(m.x, m.y)).join(",")};PU;OA;` };
}

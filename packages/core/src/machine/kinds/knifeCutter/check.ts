import { type Work } from "../../../maths/work";
import { ProgramError } from "../../gcode";
import { HpglReader } from "../../hpgl";
import { passFinder } from "../../passFinder";
import { type CheckedPass } from "../../program";
import { type ProgramLines } from "../../programLines";
import { reachOf } from "../../reach";
import { type KnifeCutter } from "./profile";

export function* checkPlot(
  lines: ProgramLines,
  machine: KnifeCutter,
  passes: readonly CheckedPass[],
): Work<void> {
  const reader = new HpglReader(machine);
  const reaches = reachOf(machine);
  const passAt = passFinder(passes);
  let ended = false;
  for (let k = 0; k < lines.count; k++) {
    if (k % 500 === 0) yield k / lines.count;
    const text = lines.text(k);
    const refuse = (why: string): never => {
      throw new ProgramError(k + 1, text, why);
    };
    if (ended && text.trim() !== "") refuse("it comes after the end of the program");
    const { moves } = reader.read(text, k + 1);
    for (const { x, y, power } of moves) {
      if (power > 0 && !passAt(k + 1)) refuse("it cuts outside of every pass");
      if (!reaches(x, y) && !(x === 0 && y === 0 && power === 0))
        refuse(`${x}, ${y} mm is outside of what ${machine.name} reaches`);
    }
    if (reader.isDown) refuse("the knife stays down at the end of the line");
    if (/^PU0,0;SP0;/.test(text)) ended = true;
  }
  if (!ended) throw new ProgramError(lines.count, lines.text(lines.count - 1), "the program does not end");
}

import { MM_PER_INCH } from "../../../maths/units";
import { workSlice, type Work } from "../../../maths/work";
import { encodeGroup4 } from "../../../format/fax";
import { writeBitsTiff } from "../../../format/tiff";
import { type Job } from "../../job";
import { MachineError } from "../../error";
import { reachable } from "../../profile";
import { type FilmPrinter } from "./profile";
import { MoveList, type Moves } from "../../moves";
import { decimal, type MachineProgram } from "../../program";
import { stretchesOf } from "../../rows";
import { isWished, type RunWish } from "../../wish";
import { type Bits } from "../../../raster/types";

/**
 * A film as a film printer takes it: a 1-bit TIFF, whose dots are the machine's own. One plate at a time.
 * @throws MachineError where the dots are not those of the machine, or the film is wider than it
 */
export function* planPrinter(job: Job, machine: FilmPrinter, wish: RunWish): Work<MachineProgram> {
  const plates = job.bitmaps.filter((b) => isWished(wish, b.name));
  if (plates.length !== 1)
    throw new MachineError("Plates to print", plates.length, "one at a time: name it as the pass");
  const [{ name, bits, dotsPerInch }] = plates;
  const own = machine.dotsPerInch.find((d) => Math.abs(d - dotsPerInch) < 0.01);
  if (own === undefined)
    throw new MachineError(
      "The film's resolution",
      `${decimal(dotsPerInch)} dots per inch`,
      `${machine.name} prints ${machine.dotsPerInch.join(", ")}`,
    );
  const reach = reachable(machine);
  const widthMm = (bits.width / own) * MM_PER_INCH;
  if (widthMm > reach.width)
    throw new MachineError(
      "The film's width",
      `${decimal(widthMm)} mm`,
      `${machine.name} prints ${decimal(reach.width)} mm`,
    );
  const bytes = writeBitsTiff(bits, yield* workSlice(encodeGroup4(bits), 0, 0.8), own);
  const moves = yield* workSlice(printerMoves(bits, own, machine), 0.8, 1);
  const passes = [{ name, use: "bitmap" as const, lines: [1, moves.count] as const, rows: bits.height }];
  return { mediaType: "image/tiff", extension: "tif", bytes, passes, at: [reach.x, reach.y], moves };
}

/** How the head of a film printer goes over dots: a swath after another, from its first mark to its last, there and back. */
export function* printerMoves(bits: Bits, dotsPerInch: number, machine: FilmPrinter): Work<Moves> {
  const dot = MM_PER_INCH / dotsPerInch;
  const { x: left, y: inset } = reachable(machine);
  const upper = machine.bed.heightMm - inset;
  const moves = new MoveList(0, 0);
  moves.beginPass("film");
  const { swathDots, printMmPerS, accelMmPerS2, travelMmPerS } = machine;
  const runUp = (printMmPerS * printMmPerS) / (2 * accelMmPerS2);
  let back = false;
  let swath = 0;
  for (let top = 0; top < bits.height; top += swathDots, swath++) {
    yield top / bits.height;
    let [from, to] = [bits.width, 0];
    for (let row = top; row < Math.min(bits.height, top + swathDots); row++) {
      const stretches = stretchesOf(bits, row);
      if (stretches.length === 0) continue;
      from = Math.min(from, stretches[0].from);
      to = Math.max(to, stretches[stretches.length - 1].to);
    }
    if (to <= from) continue;
    const [a, b] = back ? [to, from] : [from, to];
    const way = back ? -1 : 1;
    const y = upper - (top + swathDots / 2) * dot;
    const go = (x: number, power: number, speed: number) =>
      moves.add({ x, y, power, speed, pause: 0, line: swath + 1 });
    go(left + a * dot - way * runUp, 0, travelMmPerS);
    go(left + a * dot, 0, printMmPerS);
    go(left + b * dot, 1, printMmPerS);
    go(left + b * dot + way * runUp, 0, printMmPerS);
    back = !back;
  }
  return moves.done();
}

import { USUAL_MACHINES } from "../machine/machine";
import { planRun } from "../machine/plan";
import { runWish } from "../machine/wish";
import { USUAL_MATERIALS } from "../material/usual";
import { runToEnd } from "../maths/work";
import { newRgba, type Bits, type Gray } from "../raster/types";
import { type Plates } from "../result/result";
import { Runner } from "../route/runner";
import { gridOf, simulate } from "../simulator/simulate";
import { type CurvePoint } from "../tone/curve";
import { drawWedge, HEIGHT_MM, PATCHES, WIDTH_MM } from "../wedge/layout";
import { wedgeRoute } from "../wedge/wedge";

/** The material that wedges are burned on here. */
export const WOOD = USUAL_MATERIALS.find((m) => m.key === "pale-wood")!;

/** The wedge's dots as the simulated laser burns them. @param gain  a curve that is taken off */
export async function burnedWedge(gain?: readonly CurvePoint[]): Promise<Bits> {
  const gray = drawWedge(WOOD.dotsPerInch);
  const colour = newRgba(gray.width, gray.height);
  gray.data.forEach((g, i) => colour.data.set([g, g, g, 255], 4 * i));
  const facts = { sha256: "0".repeat(64), width: gray.width, height: gray.height, vector: false };
  const results = await new Runner({}).run(wedgeRoute(WOOD, gain), { facts, pixels: async () => colour });
  const { bits } = (results.at(-1)!.result as Plates).plates[0];
  const [laser] = USUAL_MACHINES;
  const bitmap = { name: "wedge", bits, dotsPerInch: WOOD.dotsPerInch };
  const job = { name: "Wedge", widthMm: WIDTH_MM, heightMm: HEIGHT_MM, sets: [], bitmaps: [bitmap] };
  const { program } = runToEnd(planRun(job, laser, runWish.parse({})));
  return runToEnd(simulate(program.moves, laser, [gridOf(bitmap, program.at, laser)])).dots[0].bits;
}

/** How strongly each step is marked, 0..1 by percent made, told on the material itself. */
export function trueShares(marks: Gray): Map<number, number> {
  const dot = 25.4 / WOOD.dotsPerInch;
  return new Map(
    PATCHES.map(({ percent, x, y, width, height }) => {
      let [sum, n] = [0, 0];
      for (let v = Math.ceil((y + 1) / dot); v < (y + height - 1) / dot; v++)
        for (let u = Math.ceil((x + 1) / dot); u < (x + width - 1) / dot; u++) {
          sum += marks.data[v * marks.width + u] / 255;
          n++;
        }
      return [percent, sum / n];
    }),
  );
}

import { type RunPlanView } from "@hardline/contract";
import { type KnownMachine } from "../machines/machines.service";

/** Where the bitmap of a run lies on the bed, and which lines of the program burn it, for a stand-in's floor. */
export function burnedGrid({ bitmap, at, passes }: RunPlanView, { machine }: KnownMachine): URLSearchParams {
  const { width, height, dotsPerInch } = bitmap!;
  const [fromLine, toLine] = passes.find((p) => p.use === "bitmap")!.lines;
  const [xMm, topMm] = [at[0], machine.bed.heightMm - at[1]];
  const grid = { width, height, dotsPerInch, xMm, topMm, fromLine, toLine };
  return new URLSearchParams(Object.fromEntries(Object.entries(grid).map(([k, v]) => [k, String(v)])));
}

import { type CheckedPass } from "./program";

/** The pass that a line belongs to; lines are asked for in their order, and so are passes. */
export function passFinder(passes: readonly CheckedPass[]): (line: number) => CheckedPass | undefined {
  let k = 0;
  return (line) => {
    while (k < passes.length && passes[k].lines[1] < line) k++;
    return k < passes.length && passes[k].lines[0] <= line ? passes[k] : undefined;
  };
}

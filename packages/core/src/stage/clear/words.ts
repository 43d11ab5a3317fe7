import { figure } from "../../inspect/check";
import { type ClearOp } from "./settings";

const count = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;

/** An operation in a few words. */
export function opWords(op: ClearOp): string {
  switch (op.op) {
    case "pick":
      return `pick ±${figure(op.tolerance)}${op.joined ? "" : ", everywhere"}`;
    case "gaps":
      return op.smallestMm2 === null
        ? `gaps, ${op.but.length} by hand`
        : op.smallestMm2 === 0
          ? "all gaps"
          : `gaps from ${figure(op.smallestMm2, 2)} mm²`;
    case "lift":
      return `lift ${Math.round(op.kept * 100)} to ${Math.round(op.gone * 100)} %${op.light === "uneven" ? ", light evened" : ""}`;
    case "hold":
      return `hold, ${count(op.strokes.length, "stroke")}`;
    case "brush":
      return `${op.paints === "away" ? "eraser" : "brush"}, ${count(op.strokes.length, "stroke")}`;
    case "cutOut":
      return `cut-out, ${count(op.keep.length + op.away.length, "stroke")}`;
    case "path":
      return `${op.keep} a ${{ round: "round", rectangle: "rectangle", rounded: "rounded rectangle", free: "path" }[op.kind]}`;
  }
}

import { figure } from "../../inspect/check";
import { type ClearOp, type ClearOpOf } from "./settings";

const count = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;

/** The two ends of a lift, as far as somebody set them. */
function ends({ kept, gone }: ClearOpOf<"lift">): string {
  if (kept === "auto" && gone === "auto") return "as found";
  const percent = (end: number | "auto") => (end === "auto" ? "found" : `${Math.round(end * 100)}`);
  return `${percent(kept)} to ${percent(gone)} %`;
}

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
      return `lift ${ends(op)}${op.light === "uneven" ? ", light evened" : ""}`;
    case "hold":
      return `hold, ${count(op.strokes.length, "stroke")}`;
    case "brush":
      return `${op.paints === "away" ? "eraser" : "brush"}, ${count(op.strokes.length, "stroke")}`;
    case "back":
      return `${count(op.at.length, "part")} brought back`;
    case "through":
      return `${count(op.at.length, "part")} ${{ seeThrough: "see-through", solid: "solid", gone: "let go" }[op.as]}`;
    case "cutOut":
      return `cut-out, ${count(op.keep.length + op.away.length, "stroke")}`;
    case "path":
      return `${op.keep} a ${{ round: "round", rectangle: "rectangle", rounded: "rounded rectangle", free: "path" }[op.kind]}`;
  }
}

import { type Gap } from "@hardline/core/clear/gaps";
import { type Frame } from "@hardline/core/path/frame";
import { type Finish } from "@hardline/core/result/finish";
import { type ClearOp, type ClearOpOf } from "@hardline/core/stage/clear/settings";

/** Gaps name their pick by its number; when picks move or go, the numbers follow, and gaps without a pick go too. */
export function numbered(before: readonly ClearOp[], after: readonly ClearOp[]): ClearOp[] {
  const picksBefore = before.filter((o) => o.op === "pick");
  const picksAfter = after.filter((o) => o.op === "pick");
  return after.flatMap((op): ClearOp[] => {
    if (op.op !== "gaps" || !before.includes(op)) return [op];
    const own = picksBefore[op.like];
    // A changed pick stands where it stood.
    const like = picksAfter.includes(own)
      ? picksAfter.indexOf(own)
      : picksAfter.length === picksBefore.length
        ? op.like
        : -1;
    return like < 0 ? [] : [like === op.like ? op : { ...op, like }];
  });
}

/** The same operation with one island the other way round. */
export function turned(
  op: ClearOpOf<"gaps">,
  gap: Gap,
  { widthPx, heightPx }: Pick<Finish, "widthPx" | "heightPx">,
  frame: Frame,
): ClearOpOf<"gaps"> {
  if (gap.by.length > 0) return { ...op, but: op.but.filter((_, i) => !gap.by.includes(i)) };
  const x = frame.x + ((gap.seed[0] + 0.5) / widthPx) * frame.width;
  const y = frame.y + ((gap.seed[1] + 0.5) / heightPx) * frame.height;
  return { ...op, but: [...op.but, [x, y]] };
}

/** Gaps like a pick, as they are first looked for. */
export const gapsFor = (like: number, tolerance: number): ClearOp => ({
  op: "gaps",
  like,
  tolerance,
  smallestMm2: 0.5,
  but: [],
});

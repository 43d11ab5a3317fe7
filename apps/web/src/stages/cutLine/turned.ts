import { type CutGap } from "@hardline/core/cutLine/gaps";
import { onArtwork, onPiece } from "@hardline/core/path/frame";
import { type CutLineSettings } from "@hardline/core/stage/cutLine/settings";
import { type Frame } from "@hardline/core/path/frame";
import { type Finish } from "@hardline/core/result/finish";

type Gaps = CutLineSettings["gaps"];
interface On {
  readonly finish: Finish;
  readonly frame: Frame;
}

/** A gap filled, or kept open, whatever its area: places that were named in it before are taken back. */
export function turned(gaps: Gaps, gap: CutGap, on: On): Gaps {
  const { xMm, yMm, widthMm, heightMm } = gap.box;
  const isElsewhere = (at: readonly [number, number]): boolean => {
    const [x, y] = onPiece(at, on);
    return x < xMm || y < yMm || x > xMm + widthMm || y > yMm + heightMm;
  };
  const [keep, fill] = [gaps.keep.filter(isElsewhere), gaps.fill.filter(isElsewhere)];
  const usual = gap.areaMm2 < gaps.fillSmallerThanMm2;
  const at = rounded(onArtwork(gap.at, on));
  const open = gap.filled; // becomes so
  if (open === !usual) return { ...gaps, keep, fill };
  return open ? { ...gaps, keep: [...keep, at], fill } : { ...gaps, keep, fill: [...fill, at] };
}

/** A millionth of the artwork is finer than any file says. */
export const rounded = ([x, y]: readonly [number, number]): readonly [number, number] => [
  Math.round(x * 1e6) / 1e6,
  Math.round(y * 1e6) / 1e6,
];

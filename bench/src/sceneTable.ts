import { coverOfStrokes } from "@hardline/core/clear/strokes";
import { runToEnd } from "@hardline/core/maths/work";
import { WHOLE_FRAME } from "@hardline/core/path/frame";
import { type CutOutPicture } from "@hardline/demo";
import { bandAbout } from "./band";
import { measureCutOut } from "./cutOutTable";
import { plainCutOut } from "./plainCutOut";
import { strokeOnWorst } from "./strokeOnWorst";

export interface SceneRow {
  /** Mean cover error in the band, in percent: of the cut-out, and of the plain way. */
  readonly band: number;
  readonly plain: number;
  /** Solid pixels of the subject that are gone, in percent of them; and of the ground that stayed. */
  readonly lost: number;
  readonly stayed: number;
  /** The band's error again, after two strokes of a hand that looks: each where it is most wrong. */
  readonly mended: number;
}

/** Cuts a scene out and compares it with the truth and with the plain way. */
export function measureScene(known: CutOutPicture): SceneRow {
  const { picture, alpha, wish } = known;
  const { width, height } = picture;
  const { result, band } = measureCutOut(known);
  const on = { source: picture, frame: WHOLE_FRAME, dotsPerMm: 10 };
  const [kept, gone] = [runToEnd(coverOfStrokes(on, wish.keep)), runToEnd(coverOfStrokes(on, wish.away))];
  const said = Uint8Array.from(kept, (v, i) => (v > 64 || gone[i] > 64 ? (v >= gone[i] ? 1 : 2) : 0));
  const plain = plainCutOut(picture, said);
  const [near, inside] = [bandAbout(alpha, width, height), bandAbout(alpha, width, height, 4)];
  let [off, count, solid, lost, clear, stayed] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (near[i]) {
      count++;
      off += Math.abs(plain[i] - alpha[i]) / 255;
    }
    if (inside[i]) continue;
    const is = result.data[i * 4 + 3];
    if (alpha[i] === 255) {
      solid++;
      if (is < 128) lost++;
    } else if (alpha[i] === 0) {
      clear++;
      if (is >= 128) stayed++;
    }
  }
  return {
    band,
    plain: (100 * off) / count,
    lost: (100 * lost) / solid,
    stayed: (100 * stayed) / clear,
    mended: bandMended(known),
  };
}

function bandMended(known: CutOutPicture): number {
  let now = known;
  let { band, result } = measureCutOut(now);
  for (let stroke = 0; stroke < 2; stroke++) {
    const wish = strokeOnWorst(now, result);
    if (!wish) return band;
    now = { ...now, wish };
    ({ band, result } = measureCutOut(now));
  }
  return band;
}

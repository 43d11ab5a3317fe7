import { nearestOnPaths, shapeOf } from "@hardline/core/edit/find";
import { type PathEdit } from "@hardline/core/edit/operations";
import { type Likeness } from "@hardline/core/letters/whichFont";
import { drive } from "@hardline/core/maths/work";
import { useState } from "react";
import { type FontView } from "@hardline/contract";
import { useFonts } from "../../../api/fonts";
import { breath } from "../../../shared/breath";
import { tellFault } from "../../../shared/tell";
import css from "../Paths.module.css";
import { type Rect } from "@hardline/core/raster/types";
import { added } from "../usePathsHand";
import { boxOfAll, middleOf } from "../selection";
import { type OnTable, type TablePath } from "../onTable";
import { NOTHING, type PathTools } from "../usePathTools";
import { newText } from "./textEdits";
import { sampleOf, useSamples } from "./useSamples";
import words from "./Words.module.css";

interface Props {
  readonly tools: PathTools;
  readonly to: OnTable;
  readonly paths: readonly TablePath[];
}

/** So many fonts are proposed. */
const PROPOSED = 3;

/** Which font the chosen letters are in: three proposals, each of which sets them anew. */
export function WhichFont({ tools: { chosen, edits, edit, setHand, setTextAt }, to, paths }: Props) {
  const { data: fonts = [] } = useFonts();
  const [found, setFound] = useState<{ readonly of: string; readonly likely: readonly Likeness[] } | null>(
    null,
  );
  const [busy, setBusy] = useState(false);
  const of = chosen.at.join(" ");
  const shapes = () => {
    const numbers = chosen.at
      .map((at) => nearestOnPaths(paths, to.mmOf(at), 0.6)?.path)
      .filter((p) => p !== undefined && paths[p].closed) as number[];
    const found = [...new Set(numbers)].map((f) => shapeOf(paths, f, (k) => paths[k].set === paths[f].set));
    // A hole is a part of its letter.
    const holes = new Set(found.flatMap((shape) => shape.slice(1)));
    return found.filter(([f]) => !holes.has(f)).map((shape) => shape.map((k) => paths[k]));
  };
  const look = async () => {
    setBusy(true);
    try {
      setFound({ of, likely: (await likeliest(shapes(), fonts)).slice(0, PROPOSED) });
    } catch (error) {
      tellFault("The fonts could not be compared", error);
    }
    setBusy(false);
  };
  const take = async ({ font, read, capitalMm: asRead }: Likeness) => {
    const box = boxOfAll(shapes().flat());
    if (!box) return;
    const capitalMm = Math.min(1000, Math.max(0.3, tidy(asRead)));
    const { by, trackingPercent } = await laidOver(box, font, read, capitalMm);
    const gone = shapes().map(([outer]): PathEdit => ({ edit: "delete", at: to.named(outer.knots[0].at) }));
    const text = {
      ...newText(to.named(added(middleOf(box), by)), undefined, box.height),
      ...{ text: read || "Words", font, capitalMm, trackingPercent },
    };
    edit([...gone, text], NOTHING);
    setHand("words");
    setTextAt(edits.length + gone.length);
  };
  return (
    <div className={css.chosen}>
      <div className={css.acts}>
        <button type="button" className={css.act} disabled={busy} onClick={() => void look()}>
          {busy ? "Comparing…" : "Which font is it?"}
        </button>
      </div>
      {found?.of === of && <Proposals {...{ fonts, take }} likely={found.likely} />}
    </div>
  );
}

interface ProposalsProps {
  readonly fonts: readonly FontView[];
  readonly likely: readonly Likeness[];
  readonly take: (one: Likeness) => Promise<void>;
}

function Proposals({ fonts, likely, take }: ProposalsProps) {
  const known = new Map(fonts.map((f) => [f.key, f]));
  useSamples(fonts);
  return (
    <ol className={words.likely} aria-label="Fonts that it may be">
      {likely.map((one) => {
        const font = known.get(one.font)!;
        return (
          <li key={one.font}>
            <button type="button" title="Set the letters anew in it" onClick={() => void take(one)}>
              <span className={words.sample}>
                <b style={{ fontFamily: `"${sampleOf(font)}", sans-serif` }}>{one.read}</b>
                <small>
                  {font.title}, {Math.round(100 * one.alike)} % alike
                </small>
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** The computation comes with the first question, and the fonts. */
async function likeliest(
  shapes: readonly (readonly TablePath[])[],
  fonts: readonly FontView[],
): Promise<Likeness[]> {
  const [{ whichFont }, { readyFonts, typefaceOf }, { servedFonts }] = await Promise.all([
    import("@hardline/core/letters/whichFont"),
    import("@hardline/core/letters/shelf"),
    import("../../../api/servedFonts"),
  ]);
  const drawn = fonts.filter((f) => !f.isLines);
  await readyFonts(
    drawn.map((f) => f.key),
    servedFonts,
  );
  return drive(
    whichFont(
      shapes,
      drawn.map((f) => [f.key, typefaceOf(f.key)!] as const),
    ),
    { pause: breath },
  );
}

/** Letters further apart, or nearer, than this many percent are set as the font has them. */
const AS_THE_FONT = 0.5;

/** How words must lie, and how far apart their letters, to come to lie over what they stand for. */
async function laidOver(box: Rect, font: string, text: string, capitalMm: number) {
  const [{ setWords }, { typefaceOf }] = await Promise.all([
    import("@hardline/core/letters/words"),
    import("@hardline/core/letters/shelf"),
  ]);
  const set = (trackingPercent: number) =>
    drive(
      setWords(typefaceOf(font)!, {
        ...{ text, capitalMm, trackingPercent, leading: 1.6, align: "middle", bridgeMm: 0 },
      }),
      { pause: breath },
    );
  const natural = (await set(0)).box;
  if (!natural) return { by: [0, 0] as const, trackingPercent: 0 };
  const gaps = Math.max(1, [...text].length - 1);
  const wished = ((box.width - natural.width) / gaps / capitalMm) * 100;
  const trackingPercent =
    Math.abs(wished) < AS_THE_FONT ? 0 : Math.round(Math.min(500, Math.max(-50, wished)) * 10) / 10;
  const [x, y] = middleOf((await set(trackingPercent)).box!);
  return { by: [-x, -y] as const, trackingPercent };
}

const tidy = (mm: number): number => Math.round(mm * 100) / 100;

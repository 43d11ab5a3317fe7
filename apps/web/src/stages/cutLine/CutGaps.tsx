import { type CutGap } from "@hardline/core/cutLine/gaps";
import { type CutLineSettings } from "@hardline/core/stage/cutLine/settings";

import { Field } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./CutLine.module.css";
import { turned } from "./turned";
import { Words } from "../../shared/Words";

interface Props {
  readonly scene: BenchScene;
  readonly settings: CutLineSettings;
  /** Null until they were looked for. */
  readonly gaps: readonly CutGap[] | null;
}

const SHOWN = 40;

/** Every gap in the art, largest first, kept open or filled. */
export function CutGaps({ scene: { set, finish, frame }, settings: { gaps: wish }, gaps }: Props) {
  if (!gaps || !finish) return null;
  if (gaps.length === 0) return <p className={field.note}>No gaps inside the outline.</p>;
  return (
    <>
      <Field label="Fill gaps" of="gaps.fillSmallerThanMm2" unit="mm²">
        <NumberField
          label="Gaps under this area are filled"
          value={wish.fillSmallerThanMm2}
          prefix="under "
          unit="mm²"
          min={0}
          max={100000}
          change={(v) => set("cutLine", { gaps: { ...wish, fillSmallerThanMm2: v } })}
        />
      </Field>
      <ol className={css.gaps} aria-label="Gaps, largest first">
        {gaps.slice(0, SHOWN).map((gap, k) => (
          <li key={k}>
            <button
              type="button"
              aria-pressed={gap.filled}
              title={gap.filled ? "Keep it open" : "Fill it"}
              onClick={() => set("cutLine", { gaps: turned(wish, gap, { finish, frame }) })}
            >
              <b className="mono">{k + 1}</b>
              <span className="mono">
                <Words of={`${gap.areaMm2.toFixed(1)} mm²`} />
              </span>
              <em>{gap.filled ? "filled" : "kept"}</em>
            </button>
          </li>
        ))}
      </ol>
      {gaps.length > SHOWN && <p className={field.note}>and {gaps.length - SHOWN} smaller ones</p>}
    </>
  );
}

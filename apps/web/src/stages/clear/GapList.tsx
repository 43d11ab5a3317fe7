import { type Gap } from "@hardline/core/clear/gaps";
import { type Frame } from "@hardline/core/path/frame";
import { type Finish } from "@hardline/core/result/finish";
import { type ClearOp, type ClearOpOf } from "@hardline/core/stage/clear/settings";
import { NumberField } from "../../shared/fields/NumberField";
import { Field } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import css from "./Clear.module.css";
import { turned } from "./opsModel";
import { Words } from "../../shared/Words";

interface Props {
  readonly op: ClearOpOf<"gaps">;
  readonly change: (op: ClearOp) => void;
  readonly gaps: readonly Gap[] | null;
  readonly finish: Finish | null;
  readonly frame: Frame;
}

const SHOWN = 60;

/** Every island like the pick, largest first, each with its area and a switch. */
export function GapList({ op, change, gaps, finish, frame }: Props) {
  if (!gaps || !finish) return <p className={field.note}>Looking for gaps …</p>;
  const dotMm2 = (finish.widthMm / finish.widthPx) * (finish.heightMm / finish.heightPx);
  const taken = gaps.filter((g) => g.taken).length;
  if (gaps.length === 0) return <p className={field.note}>No enclosed island is like this pick.</p>;
  return (
    <div className={css.settings}>
      <Field label="From" of={op.smallestMm2 === null ? undefined : "smallestMm2"} unit="mm²">
        <NumberField
          label="Gaps from this size"
          optional
          value={op.smallestMm2}
          placeholder="none"
          unit="mm²"
          min={0}
          max={1e6}
          step={0.1}
          change={(smallestMm2) => change({ ...op, smallestMm2, but: [] })}
        />
        <button
          type="button"
          className={css.small}
          onClick={() => change({ ...op, smallestMm2: 0, but: [] })}
        >
          All
        </button>
        <button
          type="button"
          className={css.small}
          onClick={() => change({ ...op, smallestMm2: null, but: [] })}
        >
          None
        </button>
      </Field>
      <p className={field.note}>
        <b className="mono">{taken}</b> of <b className="mono">{gaps.length}</b> taken. Click them on the
        picture, or here.
      </p>
      <ul className={css.gaps} aria-label="Gaps, largest first">
        {gaps.slice(0, SHOWN).map((gap, i) => (
          <li key={`${gap.seed[0]} ${gap.seed[1]}`}>
            <label>
              <input
                type="checkbox"
                checked={gap.taken}
                onChange={() => change(turned(op, gap, finish, frame))}
              />
              <span>Gap {i + 1}</span>
              <span className="mono">
                <Words of={`${(gap.pixels * dotMm2).toFixed(2)} mm²`} />
              </span>
            </label>
          </li>
        ))}
      </ul>
      {gaps.length > SHOWN && <p className={field.note}>and {gaps.length - SHOWN} smaller ones</p>}
    </div>
  );
}

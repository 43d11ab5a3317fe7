import { useState } from "react";
import { Choice, Field } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import css from "./Paths.module.css";
import { type At, type OnTable, type TablePath } from "./onTable";
import { boxOfAll, middleOf, NO_CHANGE, placeAfter, type Change } from "./selection";
import { transformOf } from "./usePathsHand";
import { type PathTools } from "./usePathTools";

interface Props {
  readonly tools: PathTools;
  readonly to: OnTable;
  readonly own: readonly TablePath[];
}

/** Turned, mirrored, scaled, about their middle or a point; repeated; lines to outlines and back, in exact numbers. */
export function TransformFields({ tools, to, own }: Props) {
  const { chosen, edit } = tools;
  const [turn, setTurn] = useState(90);
  const [percent, setPercent] = useState(100);
  const [about, setAbout] = useState<At | null>(null);
  const box = boxOfAll(own);
  if (!box) return null;
  const middle = about ?? middleOf(box);
  const change = (by: Partial<Change>) => {
    const whole = { ...NO_CHANGE, about: middle, ...by };
    edit([transformOf(whole, chosen.at, to.named(middle), 0)], {
      kind: "paths",
      at: chosen.at.map((at) => to.named(placeAfter(whole, to.mmOf(at)))),
    });
  };
  return (
    <>
      <Field label="About">
        <Choice
          label="What it is turned and scaled about"
          value={about ? "point" : "middle"}
          options={[
            { value: "middle", label: "the middle" },
            { value: "point", label: "a point" },
          ]}
          change={(to_) => setAbout(to_ === "point" ? round(middleOf(box)) : null)}
        />
      </Field>
      {about && (
        <Field label="Point">
          <Mm
            label="Point from the left"
            prefix="x "
            value={about[0]}
            change={(x) => setAbout([x, about[1]])}
          />
          <Mm
            label="Point from the top"
            prefix="y "
            value={about[1]}
            change={(y) => setAbout([about[0], y])}
          />
        </Field>
      )}
      <Field label="Turn">
        <NumberField
          label="Turn clockwise by"
          unit="°"
          value={turn}
          min={-360}
          max={360}
          decimals={2}
          change={setTurn}
        />
        <button type="button" className={css.act} onClick={() => change({ turnDegrees: turn })}>
          Turn
        </button>
      </Field>
      <Field label="Mirror">
        <button type="button" className={css.act} onClick={() => change({ across: -1 })}>
          Left to right
        </button>
        <button type="button" className={css.act} onClick={() => change({ down: -1 })}>
          Top to foot
        </button>
      </Field>
      <Field label="Scale">
        <NumberField
          label="Scale to"
          unit="%"
          value={percent}
          min={1}
          max={10000}
          decimals={2}
          change={setPercent}
        />
        <button
          type="button"
          className={css.act}
          onClick={() => change({ across: percent / 100, down: percent / 100 })}
        >
          Scale
        </button>
      </Field>
      <Repeat {...{ tools, to }} about={middle} box={box} />
      <LineFields tools={tools} />
    </>
  );
}

const HOW = [
  { value: "row", label: "row" },
  { value: "grid", label: "grid" },
  { value: "circle", label: "circle" },
] as const;
type How = (typeof HOW)[number]["value"];

/** Copies in a row, a grid or a circle. */
function Repeat({
  tools: { chosen, edit },
  to,
  about,
  box,
}: Pick<Props, "tools" | "to"> & {
  about: At;
  box: { readonly width: number; readonly height: number };
}) {
  const [how, setHow] = useState<How>("row");
  const [across, setAcross] = useState(3);
  const [down, setDown] = useState(2);
  const [gap, setGap] = useState<At>([2, 2]);
  const [radius, setRadius] = useState(0);
  const step: At = [box.width + gap[0], box.height + gap[1]];
  const make = () => {
    if (how === "circle") {
      // About a place so far below the middle.
      const round = to.named([about[0], about[1] + radius]);
      const whole = { ...NO_CHANGE, turnDegrees: 360 / Math.max(2, across) };
      return edit([transformOf(whole, chosen.at, round, across - 1)]);
    }
    edit([
      {
        ...transformOf({ ...NO_CHANGE, byMm: [step[0], 0] }, chosen.at, to.named(about), across - 1),
        ...(how === "grid" && { rows: down - 1, rowByMm: [0, step[1]] as const }),
      } as ReturnType<typeof transformOf>,
    ]);
  };
  return (
    <>
      <Field label="Repeat">
        <Choice label="Repeat in" value={how} options={HOW} change={setHow} />
      </Field>
      <Field label="Times">
        <NumberField
          label={how === "circle" ? "How many round the circle" : "How many across"}
          prefix="× "
          value={across}
          min={2}
          max={500}
          decimals={0}
          change={setAcross}
        />
        {how === "grid" && (
          <NumberField
            label="How many down"
            prefix="× "
            value={down}
            min={1}
            max={500}
            decimals={0}
            change={setDown}
          />
        )}
        <button type="button" className={css.act} onClick={make}>
          Make them
        </button>
      </Field>
      {how === "circle" ? (
        <Field label="Round">
          <Mm
            label="How far below the middle the circle's middle lies"
            prefix="r "
            value={radius}
            change={setRadius}
          />
        </Field>
      ) : (
        <Field label="Gaps">
          <Mm label="Gap across" prefix="" value={gap[0]} change={(x) => setGap([x, gap[1]])} />
          {how === "grid" && (
            <Mm label="Gap down" prefix="" value={gap[1]} change={(y) => setGap([gap[0], y])} />
          )}
        </Field>
      )}
    </>
  );
}

/** Lines as outlines of a width, outlines as lines. */
function LineFields({ tools: { chosen, edit } }: Pick<Props, "tools">) {
  const [width, setWidth] = useState(1);
  const each = (how: "outline" | "centre") =>
    edit(
      chosen.at.map((at) =>
        how === "outline"
          ? ({ edit: "outline", at, widthMm: width, ends: "round" } as const)
          : ({ edit: "centre", at, widthMm: width } as const),
      ),
      { kind: "paths", at: [] },
    );
  return (
    <Field label="Stroke">
      <NumberField
        label="Width of a stroke"
        unit="mm"
        value={width}
        min={0.05}
        max={50}
        step={0.1}
        change={setWidth}
      />
      <button
        type="button"
        className={css.act}
        title="A line becomes an outline so wide"
        onClick={() => each("outline")}
      >
        Outline
      </button>
      <button
        type="button"
        className={css.act}
        title="A stroke up to this width becomes the line along its middle"
        onClick={() => each("centre")}
      >
        Line
      </button>
    </Field>
  );
}

const round = ([x, y]: At): At => [Math.round(x * 1000) / 1000, Math.round(y * 1000) / 1000];

const Mm = (props: { label: string; prefix: string; value: number; change: (v: number) => void }) => (
  <NumberField {...props} unit="mm" decimals={2} step={0.5} min={-5000} max={5000} />
);

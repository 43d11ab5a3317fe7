import { lazy, Suspense, useState } from "react";
import { fieldsOf } from "@hardline/core/route/fields";
import { TextInput } from "@mantine/core";
import { Choice, Field } from "../../../shared/fields/Field";
import { NumberField } from "../../../shared/fields/NumberField";
import { type BenchScene } from "../../face";
import path from "../Paths.module.css";
import { type PathTools } from "../usePathTools";
import { FontChoice } from "./FontChoice";
import { changed, textsIn, type TextEdit } from "./textEdits";
import css from "./Words.module.css";

const FillTable = lazy(() => import("./FillTable").then((m) => ({ default: m.FillTable })));

interface Props {
  readonly scene: BenchScene;
  readonly tools: PathTools;
}

/** Words on the piece: which, in what font, how large, on what, in what room. */
export function WordsFields({ scene, tools }: Props) {
  const texts = textsIn(tools.edits);
  const own = texts.find((t) => t.at === tools.textAt);
  const [filling, setFilling] = useState(false);
  return (
    <div className={css.words}>
      {texts.length > 1 && (
        <div className={css.list} role="toolbar" aria-label="Words on this piece">
          {texts.map(({ at, edit }) => (
            <button
              key={at}
              type="button"
              aria-pressed={at === tools.textAt}
              onClick={() => tools.setTextAt(at)}
            >
              {edit.text.replace(/\s+/g, " ").slice(0, 28) || "(blank)"}
            </button>
          ))}
        </div>
      )}
      {fieldsOf(scene.route).length > 0 && (
        <div className={path.acts}>
          <button type="button" className={path.act} onClick={() => setFilling(true)}>
            Fill from a table
          </button>
        </div>
      )}
      {filling && (
        <Suspense fallback={null}>
          <FillTable scene={scene} close={() => setFilling(false)} />
        </Suspense>
      )}
      {own && <TextFields key={own.at} {...{ scene, tools }} at={own.at} text={own.edit} />}
    </div>
  );
}

function TextFields({ scene, tools, at, text }: Props & { readonly at: number; readonly text: TextEdit }) {
  const change = (more: Partial<TextEdit>) => tools.keepEdits(changed(tools.edits, at, more));
  const [typed, setTyped] = useState(text.text);
  const type = (next: string) => {
    setTyped(next);
    if (next !== "") change({ text: next });
  };
  const remove = () => {
    tools.setTextAt(null);
    tools.keepEdits(tools.edits.filter((_, k) => k !== at));
  };
  return (
    <>
      <textarea
        className={css.text}
        aria-label="Words"
        maxLength={500}
        // It is here to be typed into.
        autoFocus
        onFocus={(e) => text.text === "Words" && e.currentTarget.select()}
        value={typed}
        onChange={(e) => type(e.currentTarget.value)}
        onBlur={() => setTyped(text.text)}
      />
      <FontChoice value={text.font} text={text.text} change={(font) => change({ font })} />
      <Field label="Capitals">
        <NumberField
          label="Height of a capital"
          unit="mm"
          value={text.capitalMm}
          min={0.3}
          max={1000}
          step={0.5}
          change={(capitalMm) => change({ capitalMm })}
        />
        <NumberField
          label="Room between letters, of a capital's height"
          prefix="apart "
          unit="%"
          value={text.trackingPercent}
          min={-50}
          max={500}
          decimals={1}
          change={(trackingPercent) => change({ trackingPercent })}
        />
      </Field>
      <Field label="Aligned">
        <Choice
          label="Lines begin or end together"
          value={text.align}
          options={ALIGN}
          change={(align) => change({ align })}
        />
      </Field>
      {text.text.includes("\n") && (
        <Field label="Leading">
          <NumberField
            label="From line to line, in capitals' heights"
            prefix="× "
            value={text.leading}
            min={0.3}
            max={10}
            step={0.1}
            change={(leading) => change({ leading })}
          />
        </Field>
      )}
      <Baseline {...{ text, change }} />
      {text.along?.kind !== "path" && (
        <Field label="Turned">
          <NumberField
            label="Turned clockwise"
            unit="°"
            value={text.turnDegrees}
            min={-360}
            max={360}
            decimals={1}
            change={(turnDegrees) => change({ turnDegrees })}
          />
        </Field>
      )}
      {!text.along && <Room {...{ text, change }} finish={scene.finish} />}
      <Field label="Bridges">
        <NumberField
          label="Width of bridges in letters that are cut out"
          unit="mm"
          value={text.bridgeMm}
          min={0}
          max={20}
          step={0.1}
          change={(bridgeMm) => change({ bridgeMm })}
        />
      </Field>
      <Field label="Over a shape">
        <Choice
          label="Words over a shape"
          value={text.over ?? "own"}
          options={OVER}
          change={(over) => change({ over: over === "own" ? undefined : over })}
        />
      </Field>
      <Field label="Filled from">
        <TextInput
          aria-label="Column of a table that fills the words"
          size="xs"
          placeholder="a column's name"
          maxLength={40}
          defaultValue={text.field ?? ""}
          onBlur={(e) => {
            const field = e.currentTarget.value.trim();
            if (field !== (text.field ?? "")) change({ field: field || undefined });
          }}
        />
      </Field>
      <div className={path.acts}>
        <button type="button" className={path.act} onClick={remove}>
          Take the words away
        </button>
      </div>
    </>
  );
}

const ALIGN = [
  { value: "left", label: "left" },
  { value: "middle", label: "middle" },
  { value: "right", label: "right" },
] as const;

const OVER = [
  { value: "own", label: "knocks out", tip: "On a filled shape they are open, beside it they are filled" },
  { value: "join", label: "joins", tip: "What they cross becomes one shape with them" },
  { value: "subtract", label: "cuts out", tip: "What they cross loses what lies within" },
] as const;

interface PartProps {
  readonly text: TextEdit;
  readonly change: (more: Partial<TextEdit>) => void;
}

const KINDS = [
  { value: "line", label: "a line" },
  { value: "arc", label: "an arc" },
  { value: "circle", label: "a circle" },
  { value: "path", label: "a path", tip: "Then click the path on the light table" },
] as const;

/** What words stand on. */
function Baseline({ text, change }: PartProps) {
  const { along } = text;
  const put = (kind: (typeof KINDS)[number]["value"]) => {
    if (kind === "line") change({ along: undefined });
    if (kind === "arc") change({ along: { kind, radiusMm: 6 * text.capitalMm } });
    if (kind === "circle")
      change({ along: { kind, diameterMm: 8 * text.capitalMm, side: "outside", spread: false } });
    if (kind === "path") change({ along: { kind, at: text.at, flipped: false } });
  };
  return (
    <>
      <Field label="On">
        <Choice label="What the words stand on" value={along?.kind ?? "line"} options={KINDS} change={put} />
      </Field>
      {along?.kind === "arc" && (
        <Field label="Radius">
          <NumberField
            label="Radius of the arc; below 0 it rises to both sides"
            unit="mm"
            value={along.radiusMm}
            min={-5000}
            max={5000}
            change={(radiusMm) => Math.abs(radiusMm) >= 1 && change({ along: { ...along, radiusMm } })}
          />
        </Field>
      )}
      {along?.kind === "circle" && (
        <>
          <Field label="Circle">
            <NumberField
              label="Diameter that the feet stand on"
              prefix="⌀ "
              unit="mm"
              value={along.diameterMm}
              min={2}
              max={5000}
              change={(diameterMm) => change({ along: { ...along, diameterMm } })}
            />
            <Choice
              label="Side of the circle"
              value={along.side}
              options={[
                { value: "outside", label: "outside" },
                { value: "inside", label: "inside" },
              ]}
              change={(side) => change({ along: { ...along, side } })}
            />
          </Field>
          <Field label="Spread">
            <Choice
              label="Spread round the circle"
              value={along.spread ? "all" : "own"}
              options={[
                { value: "own", label: "as they are" },
                { value: "all", label: "all the way round" },
              ]}
              change={(to) => change({ along: { ...along, spread: to === "all" } })}
            />
          </Field>
        </>
      )}
      {along?.kind === "path" && (
        <Field label="Side">
          <Choice
            label="Side of the path"
            value={along.flipped ? "other" : "one"}
            options={[
              { value: "one", label: "one" },
              { value: "other", label: "the other" },
            ]}
            change={(side) => change({ along: { ...along, flipped: side === "other" } })}
          />
        </Field>
      )}
    </>
  );
}

const TOO_LONG = [
  { value: "shrink", label: "shrink" },
  { value: "break", label: "break", tip: "Onto as many lines as leave them largest" },
  { value: "tell", label: "tell", tip: "They stay, and a check says so" },
] as const;

/** The room that words are to fit into. */
function Room({ text, change, finish }: PartProps & { readonly finish: BenchScene["finish"] }) {
  const { box } = text;
  const whole = {
    widthMm: Math.round((finish?.widthMm ?? 80) * 0.8),
    heightMm: Math.round((finish?.heightMm ?? 40) * 0.4),
    tooLong: "shrink" as const,
  };
  return (
    <>
      <Field label="Room">
        <Choice
          label="Room for the words"
          value={box ? "box" : "any"}
          options={[
            { value: "any", label: "any" },
            { value: "box", label: "a box" },
          ]}
          change={(to) => change({ box: to === "box" ? whole : undefined })}
        />
      </Field>
      {box && (
        <>
          <Field label="Box">
            <NumberField
              label="Width of the room"
              unit="mm"
              value={box.widthMm}
              min={0.5}
              max={5000}
              change={(widthMm) => change({ box: { ...box, widthMm } })}
            />
            <NumberField
              label="Height of the room"
              unit="mm"
              value={box.heightMm}
              min={0.5}
              max={5000}
              change={(heightMm) => change({ box: { ...box, heightMm } })}
            />
          </Field>
          <Field label="Too long">
            <Choice
              label="Words too long for their room"
              value={box.tooLong}
              options={TOO_LONG}
              change={(tooLong) => change({ box: { ...box, tooLong } })}
            />
          </Field>
        </>
      )}
    </>
  );
}

import { areaOfPath, nearestKnot, nearestOnPaths, ringBoxOfPath } from "@hardline/core/edit/find";
import { editsOf, pressesFor } from "@hardline/core/edit/operations";
import { Choice, Field } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./Paths.module.css";
import { onTable, pathsIn, type OnTable } from "./onTable";
import { PATH_HANDS } from "./pathKeys";
import { WhichFont } from "./words/WhichFont";
import { WordsFields } from "./words/WordsFields";
import { GuideFields } from "./GuideFields";
import { TransformFields } from "./TransformFields";
import { NOTHING, type HandSizes, type Over, type PathHand, type PathTools } from "./usePathTools";

interface Props {
  readonly scene: BenchScene;
  readonly tools: PathTools;
}

/** What can be done to paths by hand, with what is chosen, in exact numbers. */
export function PathPanel({ scene, tools }: Props) {
  const { hand, setHand, edits, keepEdits } = tools;
  const missed = Number(
    scene.inspected?.found.checks.find((c) => c.id === "editsMissed" && c.stage === tools.stage)?.value ?? 0,
  );
  return (
    <section className={css.paths} aria-label="Edit the paths">
      <div className={css.tools} role="toolbar" aria-label="Hands on the paths">
        {PATH_HANDS.map((h) => (
          <button
            key={h.hand}
            type="button"
            aria-pressed={hand === h.hand}
            title={`${h.label} (${h.key})`}
            onClick={() => setHand(hand === h.hand ? null : h.hand)}
          >
            {h.label}
          </button>
        ))}
      </div>
      {hand === "words" && <WordsFields {...{ scene, tools }} />}
      {hand && <HandFields {...{ scene, tools }} hand={hand} />}
      {hand && DRAWS.has(hand) && (
        <Field label="Over a shape">
          <Choice label="Over a shape" value={tools.over} options={OVER} change={tools.setOver} />
        </Field>
      )}
      {hand && <ChosenFields {...{ scene, tools }} />}
      {hand && <GuideFields tools={tools} />}
      {edits.length > 0 && (
        <p className={css.edits}>
          <span>
            <b className="mono">{edits.length}</b> {edits.length === 1 ? "edit" : "edits"} by hand
            {missed > 0 && `, ${missed} found nothing`}
          </span>
          <button type="button" className={field.link} onClick={() => keepEdits(edits.slice(0, -1))}>
            Take back
          </button>
        </p>
      )}
    </section>
  );
}

/** Hands that draw closed paths. */
const DRAWS: ReadonlySet<PathHand> = new Set(["draw", "circle", "rectangle"]);
const OVER = [
  { value: "join", label: "joins", tip: "What it crosses becomes one shape with it" },
  { value: "subtract", label: "cuts out", tip: "What it crosses loses what lies within" },
  { value: "own", label: "own line", tip: "It stays a line of its own; what lies in both is open" },
] as const satisfies readonly { readonly value: Over; readonly label: string; readonly tip: string }[];

/** Millimetres and places of the artwork, where it does not matter how the picture lies on the table. */
function onPieceAlone({ finish, frame }: BenchScene): OnTable | null {
  if (!finish) return null;
  const { widthMm: width, heightMm: height } = finish;
  return onTable({ x: 0, y: 0, width, height, zoom: 1 }, finish, frame);
}

/** Sizes that a hand works with. */
function HandFields({ scene, tools, hand }: Props & { readonly hand: PathHand }) {
  const { sizes, setSizes, setChosen } = tools;
  const chooseSmall = () => {
    const to = onPieceAlone(scene);
    const small = pathsIn(scene.sets).filter((path) => path.closed && areaOfPath(path) < sizes.under);
    if (to) setChosen({ kind: "paths", at: small.map((path) => to.named(path.knots[0].at)) });
  };
  const number = (label: string, name: keyof HandSizes, prefix: string, most: number, unit = "mm") => (
    <NumberField
      key={name}
      label={label}
      value={sizes[name]}
      prefix={prefix}
      unit={unit}
      min={0.01}
      max={most}
      change={(v) => setSizes({ [name]: v })}
    />
  );
  switch (hand) {
    case "circle":
      return <Field label="Size">{number("Diameter of a circle", "diameter", "⌀ ", 2000)}</Field>;
    case "rectangle":
      return (
        <Field label="Size">
          {number("Width of a rectangle", "width", "", 2000)}
          {number("Height of a rectangle", "height", "", 2000)}
        </Field>
      );
    case "rub":
      return <Field label="Reach">{number("How far a rub reaches", "reach", "", 20)}</Field>;
    case "paths":
      return (
        <Field label="Smaller">
          {number("Paths under this area", "under", "under ", 10000, "mm²")}
          <button type="button" className={css.act} onClick={chooseSmall}>
            Choose
          </button>
        </Field>
      );
    default:
      return null;
  }
}

/** What is done with what is chosen. */
function ChosenFields({ scene, tools }: Props) {
  const { chosen, sizes, setSizes } = tools;
  const to = onPieceAlone(scene);
  if (!to || chosen.at.length === 0) return null;
  const paths = pathsIn(scene.sets);
  const single = chosen.at.length === 1;
  return (
    <div className={css.chosen}>
      <ChosenActs {...{ scene, tools }} />
      {chosen.kind === "paths" && <Simplify tools={tools} />}
      {single && chosen.kind === "points" && <PointNumbers {...{ tools, to, paths }} />}
      {single && chosen.kind === "paths" && <PathNumbers {...{ tools, to, paths }} />}
      {chosen.kind === "paths" && chosen.at.length > 1 && <WhichFont {...{ tools, to, paths }} />}
      {chosen.kind === "paths" && <TransformFields {...{ tools, to }} own={ownOf(paths, chosen.at, to)} />}
      <Field label="Step">
        <NumberField
          label="How far an arrow key moves it"
          value={sizes.step}
          unit="mm an arrow"
          min={0.001}
          max={50}
          decimals={3}
          step={0.05}
          change={(v) => setSizes({ step: v })}
        />
      </Field>
    </div>
  );
}

/** The paths that places lie on. */
function ownOf(paths: ReturnType<typeof pathsIn>, at: readonly (readonly [number, number])[], to: OnTable) {
  const found = at
    .map((place) => nearestOnPaths(paths, to.mmOf(place), 0.6)?.path)
    .filter((p) => p !== undefined);
  return [...new Set(found)].map((k) => paths[k]);
}

function ChosenActs({ scene, tools: { chosen, edit, setChosen } }: Props) {
  const { at, kind } = chosen;
  const sameTone = () => {
    const to = onPieceAlone(scene);
    const paths = pathsIn(scene.sets);
    if (!to) return;
    const own = nearestOnPaths(paths, to.mmOf(at[0]), 0.6);
    if (!own) return;
    const alike = paths.filter((p) => p.set === paths[own.path].set);
    setChosen({ kind: "paths", at: alike.map((p) => to.named(p.knots[0].at)) });
  };
  const presses = pressesFor(kind, at.length);
  const done = (press: (typeof presses)[number]) =>
    edit(editsOf(press, at), press.keeps ? undefined : NOTHING);
  const groups = [...new Set(presses.flatMap((press) => press.group ?? []))];
  return (
    <>
      <div className={css.acts}>
        {presses
          .filter((press) => !press.group)
          .map((press) => (
            <Act key={press.words} words={press.words} act={() => done(press)} />
          ))}
        {kind === "paths" && at.length === 1 && scene.sets.length > 1 && (
          <Act words="All of this tone" act={sameTone} />
        )}
      </div>
      {groups.map((group) => (
        <div key={group} className={css.group} role="group" aria-label={group}>
          <span>{group}</span>
          <div className={css.acts}>
            {presses
              .filter((press) => press.group === group)
              .map((press) => (
                <Act key={press.words} words={press.words} act={() => done(press)} />
              ))}
          </div>
        </div>
      ))}
    </>
  );
}

function Simplify({ tools: { chosen, edit, sizes, setSizes } }: Pick<Props, "tools">) {
  const simplified = () => edit(chosen.at.map((at) => ({ edit: "simplify", at, withinMm: sizes.within })));
  return (
    <Field label="Simplify">
      <NumberField
        label="Simplified within"
        value={sizes.within}
        prefix="within "
        unit="mm"
        min={0.001}
        max={10}
        decimals={3}
        step={0.05}
        change={(v) => setSizes({ within: v })}
      />
      <button type="button" className={css.act} onClick={simplified}>
        Do it
      </button>
    </Field>
  );
}

interface NumbersProps {
  readonly tools: PathTools;
  readonly to: OnTable;
  readonly paths: ReturnType<typeof pathsIn>;
}

function PointNumbers({ tools: { chosen, edit }, to, paths }: NumbersProps) {
  const found = nearestKnot(paths, to.mmOf(chosen.at[0]), 0.6);
  if (!found) return null;
  const { at } = paths[found.path].knots[found.knot];
  const put = (x: number, y: number) => {
    const place = to.named([x, y]);
    edit([{ edit: "movePoint", at: to.named(at), to: place }], { kind: "points", at: [place] });
  };
  return (
    <Field label="Place">
      <Exact label="Point from the left" prefix="x " value={at[0]} change={(x) => put(x, at[1])} />
      <Exact label="Point from the top" prefix="y " value={at[1]} change={(y) => put(at[0], y)} />
    </Field>
  );
}

function PathNumbers({ tools: { chosen, edit }, to, paths }: NumbersProps) {
  const found = nearestOnPaths(paths, to.mmOf(chosen.at[0]), 0.6);
  if (!found) return null;
  const path = paths[found.path];
  const box = ringBoxOfPath(path);
  const first = path.knots[0].at;
  const put = (change: Partial<typeof box>) => {
    const next = { ...box, ...change };
    if (next.width < 0.01 || next.height < 0.01) return;
    const scaled = (v: number, from: number, size: number, to_: number, by: number) =>
      to_ + ((v - from) / (size || 1)) * by;
    const place = to.named([
      scaled(first[0], box.x, box.width, next.x, next.width),
      scaled(first[1], box.y, box.height, next.y, next.height),
    ]);
    edit(
      [
        {
          edit: "box",
          at: to.named(first),
          xMm: next.x,
          yMm: next.y,
          widthMm: next.width,
          heightMm: next.height,
        },
      ],
      { kind: "paths", at: [place] },
    );
  };
  return (
    <>
      <Field label="Place">
        <Exact label="Path from the left" prefix="x " value={box.x} change={(x) => put({ x })} />
        <Exact label="Path from the top" prefix="y " value={box.y} change={(y) => put({ y })} />
      </Field>
      <Field label="Size">
        <Exact label="Width of the path" prefix="w " value={box.width} change={(width) => put({ width })} />
        <Exact
          label="Height of the path"
          prefix="h "
          value={box.height}
          change={(height) => put({ height })}
        />
      </Field>
    </>
  );
}

const MOST_MM = 5000;

/** A length of what is chosen, to a thousandth of a millimetre. */
const Exact = (props: { label: string; prefix: string; value: number; change: (v: number) => void }) => (
  <NumberField {...props} unit="mm" decimals={3} step={0.1} min={-MOST_MM} max={MOST_MM} />
);

const Act = ({ words, act }: { words: string; act: () => void }) => (
  <button type="button" className={css.act} onClick={act}>
    {words}
  </button>
);

import { type ArtworkReading } from "@hardline/core/reading/reading";
import { type ClearOp, type ClearOpOf } from "@hardline/core/stage/clear/settings";
import { ColorInput } from "@mantine/core";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./Clear.module.css";
import { GapList } from "./GapList";
import { gapsFor } from "./opsModel";
import { type ClearTools } from "./useClear";
import { type ClearNote } from "./worker";

interface Props {
  readonly op: ClearOp;
  readonly index: number;
  readonly tools: ClearTools;
  readonly scene: BenchScene;
}

/** The settings of the operation that is in hand. */
export function OpSettings({ op, index, tools, scene }: Props) {
  const { finish, frame } = scene;
  const { reading } = scene.ticket.artwork;
  const found = scene.shown?.notes.clear as ClearNote | undefined;
  const change = (next: ClearOp) => tools.change(index, next);
  switch (op.op) {
    case "pick":
      return <PickOp {...{ op, tools, change }} />;
    case "gaps":
      return (
        <GapList {...{ op, change, finish, frame }} gaps={found?.find((g) => g.op === index)?.gaps ?? null} />
      );
    case "lift":
      return <LiftOp {...{ op, change, reading }} />;
    case "cutOut":
      return <CutOutOp {...{ op, tools, change }} />;
    case "hold":
    case "brush":
      return (
        <div className={css.settings}>
          <BrushSettings tools={tools} soft />
          <Strokes
            count={op.strokes.length}
            drop={() => change({ ...op, strokes: op.strokes.slice(0, -1) })}
          />
        </div>
      );
    case "back":
      return <p className={css.settings}>Unlike the ground about them, and taken with it.</p>;
    case "through":
      return <ThroughOp {...{ op, change }} />;
    case "path":
      return <PathOp {...{ op, change }} />;
  }
}

type Change = (op: ClearOp) => void;

function ThroughOp({ op, change }: { op: ClearOpOf<"through">; change: Change }) {
  return (
    <div className={css.settings}>
      <Field label="Becomes" of="as">
        <Choice
          label="Becomes"
          value={op.as}
          options={[
            { value: "seeThrough", label: "see-through", tip: "Freed of the ground that is seen through it" },
            { value: "solid", label: "solid", tip: "As it looks, the ground in it" },
            { value: "gone", label: "gone" },
          ]}
          change={(as) => change({ ...op, as })}
        />
      </Field>
      <Strokes one="place" count={op.at.length} drop={() => change({ ...op, at: op.at.slice(0, -1) })} />
    </div>
  );
}

function PickOp({ op, tools, change }: { op: ClearOpOf<"pick">; tools: ClearTools; change: Change }) {
  const like = tools.ops.filter((o) => o.op === "pick").indexOf(op);
  return (
    <div className={css.settings}>
      <Sliding
        label="Tolerance"
        of="tolerance"
        value={op.tolerance}
        min={0}
        max={60}
        step={1}
        change={(tolerance) => change({ ...op, tolerance })}
      />
      <Field label="Takes" of="joined">
        <Choice
          label="Takes"
          value={op.joined ? "joined" : "everywhere"}
          options={[
            { value: "joined", label: "joined" },
            { value: "everywhere", label: "everywhere" },
          ]}
          change={(v) => change({ ...op, joined: v === "joined" })}
        />
      </Field>
      {!tools.ops.some((o) => o.op === "gaps" && o.like === like) && (
        <button
          type="button"
          className={css.gapsButton}
          onClick={() => tools.add(gapsFor(like, op.tolerance))}
        >
          Find its gaps
        </button>
      )}
    </div>
  );
}

interface LiftProps {
  readonly op: ClearOpOf<"lift">;
  readonly change: Change;
  readonly reading: ArtworkReading | null;
}

/** Where the ends show before the artwork was read. */
const UNREAD = { kept: 0.5, gone: 1 };

function LiftOp({ op, change, reading }: LiftProps) {
  // What is to be found shows where the artwork's own reading has it; a hand on one end sets both.
  const found = reading?.lift ?? UNREAD;
  const ends = {
    kept: op.kept === "auto" ? found.kept : op.kept,
    gone: op.gone === "auto" ? found.gone : op.gone,
  };
  const [kept, gone] = [Math.round(ends.kept * 100), Math.round(ends.gone * 100)];
  return (
    <div className={css.settings}>
      <Sliding
        label="Ink up to"
        of="kept"
        scale={100}
        unit="%"
        value={kept}
        min={0}
        max={99}
        step={1}
        change={(v) => change({ ...op, kept: v / 100, gone: Math.max(ends.gone, (v + 1) / 100) })}
      />
      <Sliding
        label="Paper from"
        of="gone"
        scale={100}
        unit="%"
        value={gone}
        min={1}
        max={100}
        step={1}
        change={(v) => change({ ...op, gone: v / 100, kept: Math.min(ends.kept, (v - 1) / 100) })}
      />
      <Field label="Light" of="light">
        <Choice
          label="Light"
          value={op.light}
          options={[
            { value: "auto", label: "found", tip: "Evened where it is not even" },
            { value: "even", label: "even" },
            { value: "uneven", label: "uneven", tip: "Measures the light on the paper and divides it out" },
          ]}
          change={(light) => change({ ...op, light })}
        />
      </Field>
      <Field label="Paper">
        <Choice
          label="Paper"
          value={op.paper === "auto" ? "auto" : "own"}
          options={[
            { value: "auto", label: "found" },
            { value: "own", label: "own colour", tip: "Click on bare paper, or set it here" },
          ]}
          change={(v) =>
            change({ ...op, paper: v === "auto" ? "auto" : (reading?.ground.colour ?? "#ffffff") })
          }
        />
      </Field>
      {op.paper !== "auto" && (
        <Field label="Colour">
          <ColorInput
            aria-label="Paper's colour"
            size="xs"
            value={op.paper}
            onChangeEnd={(paper) => /^#[0-9a-fA-F]{6}$/.test(paper) && change({ ...op, paper })}
          />
        </Field>
      )}
    </div>
  );
}

function CutOutOp({ op, tools, change }: { op: ClearOpOf<"cutOut">; tools: ClearTools; change: Change }) {
  const { brush, setBrush } = tools;
  const missing = [op.keep.length === 0 && "subject", op.away.length === 0 && "background"].filter(Boolean);
  return (
    <div className={css.settings}>
      <Field label="Scribble on">
        <Choice
          label="Scribble on"
          value={brush.side}
          options={[
            { value: "keep", label: "subject", tip: "What stays (X changes)" },
            { value: "away", label: "background", tip: "What goes (X changes)" },
          ]}
          change={(side) => setBrush({ ...brush, side })}
        />
      </Field>
      <BrushSettings tools={tools} />
      {missing.length > 0 ? (
        <p className={field.note}>Still to scribble on: {missing.join(" and ")}.</p>
      ) : (
        <Strokes
          count={op.keep.length + op.away.length}
          drop={() =>
            change(
              brush.side === "keep" && op.keep.length > 0
                ? { ...op, keep: op.keep.slice(0, -1) }
                : { ...op, away: op.away.slice(0, -1) },
            )
          }
        />
      )}
    </div>
  );
}

function BrushSettings({ tools, soft = false }: { tools: ClearTools; soft?: boolean }) {
  const { brush, setBrush } = tools;
  return (
    <>
      <Sliding
        label="Size"
        unit="mm"
        decimals={1}
        value={brush.sizeMm}
        min={0.2}
        max={20}
        step={0.1}
        change={(sizeMm) => setBrush({ ...brush, sizeMm })}
      />
      {soft && (
        <Sliding
          label="Softness"
          unit="%"
          value={Math.round(brush.softness * 100)}
          min={0}
          max={100}
          step={5}
          change={(v) => setBrush({ ...brush, softness: v / 100 })}
        />
      )}
    </>
  );
}

interface StrokesProps {
  readonly one?: string;
  readonly count: number;
  readonly drop: () => void;
}

const Strokes = ({ one = "stroke", count, drop }: StrokesProps) => (
  <p className={field.note}>
    <b className="mono">{count}</b> {count === 1 ? one : `${one}s`}.{" "}
    {count > 0 && (
      <button type="button" className={field.link} onClick={drop}>
        Take the last one back
      </button>
    )}
  </p>
);

function PathOp({ op, change }: { op: ClearOpOf<"path">; change: Change }) {
  return (
    <div className={css.settings}>
      <Field label="Outline" of="kind">
        <Choice
          label="Outline"
          value={op.kind}
          options={[
            { value: "round", label: "round" },
            { value: "rectangle", label: "rect", tip: "Rectangle" },
            { value: "rounded", label: "rounded" },
            { value: "free", label: "path", tip: "Points of your own" },
          ]}
          change={(kind) => change({ ...op, kind })}
        />
      </Field>
      <Field label="Keep" of="keep">
        <Choice
          label="Keep"
          value={op.keep}
          options={[
            { value: "inside", label: "inside" },
            { value: "outside", label: "outside" },
          ]}
          change={(keep) => change({ ...op, keep })}
        />
      </Field>
      {op.kind === "rounded" && (
        <Sliding
          label="Corners"
          of="cornerMm"
          unit="mm"
          decimals={1}
          value={op.cornerMm}
          min={0}
          max={50}
          step={0.5}
          change={(cornerMm) => change({ ...op, cornerMm })}
        />
      )}
      {op.kind === "free" && op.knots.length > 0 && (
        <p className={field.note}>
          <b className="mono">{op.knots.length}</b> points.{" "}
          <button
            type="button"
            className={field.link}
            onClick={() => change({ ...op, knots: op.knots.slice(0, -1) })}
          >
            Take the last one back
          </button>
        </p>
      )}
    </div>
  );
}

import { proposedLift } from "@hardline/core/reading/proposal";
import { type ArtworkReading } from "@hardline/core/reading/reading";
import { type ClearOp } from "@hardline/core/stage/clear/settings";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene, type PanelProps } from "../face";
import { LeaveOut } from "../LeaveOut";
import css from "./Clear.module.css";
import { OpList } from "./OpList";
import { gapsFor } from "./opsModel";
import { OpSettings } from "./OpSettings";
import { type ClearTools } from "./useClear";

/** What is taken away, in order; the tools that take; and the edge that is left. */
export function ClearPanel({ scene, tools }: PanelProps<ClearTools>) {
  const { set } = scene;
  const { reading } = scene.ticket.artwork;
  const { ops, settings, hand, setHand, showing, setShowing } = tools;
  if (!settings) return null;
  return (
    <>
      {ops.length > 0 && (
        <OpList tools={tools} settings={(op, index) => <OpSettings {...{ op, index, tools, scene }} />} />
      )}
      <div className={css.tools} role="group" aria-label="Take away by">
        <Tool
          name="Pick"
          tip="Click on the background (P)"
          on={hand?.kind === "pick"}
          press={() => setHand(hand?.kind === "pick" ? null : { kind: "pick" })}
        />
        <Tool name="Lift" tip="Ink off paper" press={() => tools.add(liftFor(reading))} />
        <Tool
          name="Cut out"
          tip="Scribble on the subject and on the background of a photograph"
          press={() => tools.add({ op: "cutOut", keep: [], away: [] })}
        />
        <Tool
          name="Hold"
          tip="Paint what must stay (K)"
          press={() => tools.add({ op: "hold", strokes: [] })}
        />
        <Tool
          name="Eraser"
          tip="Paint away (E)"
          press={() => tools.add({ op: "brush", paints: "away", strokes: [] })}
        />
        <Tool
          name="Brush"
          tip="Paint back what was taken"
          press={() => tools.add({ op: "brush", paints: "back", strokes: [] })}
        />
        <Tool
          name="See-through"
          tip="Point at what the ground is seen through: shadow, smoke, glass"
          press={() => tools.add({ op: "through", at: [], as: "seeThrough" })}
        />
        <Tool
          name="Shape"
          tip="Keep what lies inside or outside an outline"
          press={() =>
            tools.add({
              op: "path",
              kind: "round",
              keep: "inside",
              box: [0.1, 0.1, 0.8, 0.8],
              cornerMm: 5,
              knots: [],
            })
          }
        />
      </div>
      {hand?.kind === "pick" && <PickSettings tools={tools} />}
      <Field label="See">
        <Choice
          label="See"
          value={showing}
          options={[
            { value: "art", label: "art" },
            { value: "cover", label: "alpha", tip: "White where the art is whole (A)" },
            { value: "tint", label: "faint tint", tip: "From 0.4 % up, shown strong (T)" },
          ]}
          change={setShowing}
        />
      </Field>
      <EdgeSettings {...{ settings, set }} />
      <LeaveOut scene={scene} stage="clear" />
    </>
  );
}

const liftFor = (reading: ArtworkReading | null): ClearOp =>
  reading ? proposedLift(reading) : { op: "lift", kept: "auto", gone: "auto", paper: "auto", light: "auto" };

function Tool({ name, tip, on, press }: { name: string; tip: string; on?: boolean; press: () => void }) {
  return (
    <button type="button" title={tip} aria-pressed={on} onClick={press}>
      {name}
    </button>
  );
}

function PickSettings({ tools }: { tools: ClearTools }) {
  const { tolerance, setTolerance, joined, setJoined, share, ops, add } = tools;
  const picks = ops.filter((o) => o.op === "pick");
  const last = picks[picks.length - 1];
  const gapsOfLast = ops.some((o) => o.op === "gaps" && o.like === picks.length - 1);
  return (
    <>
      <Sliding label="Tolerance" value={tolerance} min={0} max={60} step={1} change={setTolerance} />
      <Field label="Takes">
        <Choice
          label="Takes"
          value={joined ? "joined" : "everywhere"}
          options={[
            { value: "joined", label: "joined", tip: "Only what can be reached from the click" },
            { value: "everywhere", label: "everywhere", tip: "The colour wherever it is" },
          ]}
          change={(v) => setJoined(v === "joined")}
        />
      </Field>
      <p className={field.note}>
        {share === null ? (
          "Point at the background."
        ) : (
          <>
            A click takes <b className="mono">{(share * 100).toFixed(1)} %</b> of the picture.
          </>
        )}
      </p>
      {last?.op === "pick" && !gapsOfLast && (
        <button
          type="button"
          className={css.gapsButton}
          title="Enclosed islands like the last pick (G)"
          onClick={() => add(gapsFor(picks.length - 1, last.tolerance))}
        >
          Find its gaps
        </button>
      )}
    </>
  );
}

function EdgeSettings({
  settings,
  set,
}: {
  settings: NonNullable<ClearTools["settings"]>;
  set: BenchScene["set"];
}) {
  const { fringe, edgeMm, featherMm, specksMm2, pinholesMm2 } = settings;
  return (
    <>
      <Field label="Fringe" of="fringe">
        <Choice
          label="Fringe"
          value={fringe}
          options={[
            { value: "unmix", label: "unmixed", tip: "The old background is taken out of edge colours" },
            { value: "none", label: "as it is" },
          ]}
          change={(v) => set("clear", { fringe: v })}
        />
      </Field>
      <Sliding
        label="Grow, choke"
        of="edgeMm"
        unit="mm"
        decimals={2}
        value={edgeMm}
        min={-2}
        max={2}
        step={0.02}
        change={(v) => set("clear", { edgeMm: v })}
      />
      <Sliding
        label="Feather"
        of="featherMm"
        unit="mm"
        decimals={2}
        value={featherMm}
        min={0}
        max={3}
        step={0.02}
        change={(v) => set("clear", { featherMm: v })}
      />
      <Sliding
        label="Drop specks"
        of="specksMm2"
        unit="mm²"
        decimals={2}
        value={specksMm2}
        min={0}
        max={4}
        step={0.05}
        change={(v) => set("clear", { specksMm2: v })}
      />
      <Sliding
        label="Fill pinholes"
        of="pinholesMm2"
        unit="mm²"
        decimals={2}
        value={pinholesMm2}
        min={0}
        max={4}
        step={0.05}
        change={(v) => set("clear", { pinholesMm2: v })}
      />
    </>
  );
}

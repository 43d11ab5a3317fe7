import { settingsOf, type Route } from "@hardline/core/route/route";
import { type TraceSettings } from "@hardline/core/stage/trace/settings";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { readingsOf, type BenchScene, type PanelProps } from "../face";
import { LeaveOut } from "../LeaveOut";
import { useOwn, type OwnPaths } from "../ownPaths/useOwn";
import { PathPanel } from "../paths/PathPanel";
import { type PathTools } from "../paths/usePathTools";
import { PassList } from "./PassList";
import { ToneFields } from "./ToneFields";

/** What is traced, how near, and what is too small. */
export function TracePanel({ scene, tools }: PanelProps<PathTools>) {
  const { route, set } = scene;
  const settings = settingsOf(route, "trace")!;
  const { from } = settings;
  const own = useOwn(scene.ticket.artwork);
  const readings = readingsOf(scene, "trace");
  return (
    <>
      <Field label="Traces" of="from">
        <Choice
          label="What is traced"
          value={from}
          options={[
            {
              value: "tone",
              label: "the grey",
              tip: "Outlines where the grey passes a threshold, finer than a pixel",
            },
            { value: "blackWhite", label: "the dots", tip: "Outlines of black and white as it is" },
            ...(own?.all.some((group) => !group.cutting) || from === "drawing"
              ? [{ value: "drawing" as const, label: "its paths", tip: "Paths of the drawing itself" }]
              : []),
          ]}
          change={(v) => set("trace", v === "drawing" && own ? drawn(own, route) : { from: v })}
        />
      </Field>
      {from !== "drawing" && <Outlining scene={scene} />}
      {readings && (
        <p className={css.note}>
          <b className="mono">{String(readings.paths)}</b> outlines of{" "}
          <b className="mono">{String(readings.segments)}</b> lines and curves;{" "}
          <b className="mono">{String(readings.specksDropped)}</b> specks and{" "}
          <b className="mono">{String(readings.pinholesDropped)}</b> pinholes dropped.
        </p>
      )}
      <PassList {...{ scene, settings }} />
      <PathPanel {...{ scene, tools }} />
      <LeaveOut scene={scene} stage="trace" />
    </>
  );
}

/** The drawing's own paths, but for what is cut along, as settings. */
function drawn(own: OwnPaths, route: Route): Partial<TraceSettings> {
  const groups = own.all.filter((group) => !group.cutting).slice(0, 100);
  const placed = groups.map((group) => own.over(group, route));
  const { widthMm, heightMm } = placed[0] ?? own.over(own.all[0], route);
  const sets = groups.map(({ name, colour, painted }, k) => {
    // Two may be called alike once they are cut to the length that a set's name may have.
    const short = name.slice(0, 34);
    const alike = groups.slice(0, k).some((other) => other.name.slice(0, 34) === short);
    const use = painted === "filled" ? ("fill" as const) : ("score" as const);
    return { name: alike ? `${short} ${k + 1}` : short, colour, use, d: placed[k].d };
  });
  return { from: "drawing", drawing: { sets, widthMm, heightMm } };
}

/** How outlines are found in a picture. */
function Outlining({ scene }: { readonly scene: BenchScene }) {
  const { route, set } = scene;
  const settings = settingsOf(route, "trace")!;
  const {
    from,
    threshold,
    toleranceMm,
    smallestMm2,
    smallestHoleMm2,
    corners,
    smoothMm,
    centreMm,
    thin,
    tones,
  } = settings;
  return (
    <>
      <ToneFields {...{ scene, settings }} />
      {from === "tone" && tones === 1 && (
        <Field label="Threshold">
          <Choice
            label="Threshold of the outlines"
            value={threshold === "auto" ? "auto" : "fixed"}
            options={[
              { value: "fixed", label: "fixed" },
              { value: "auto", label: "found" },
            ]}
            change={(v) => set("trace", { threshold: v === "auto" ? "auto" : 128 })}
          />
        </Field>
      )}
      {from === "tone" && tones === 1 && threshold !== "auto" && (
        <Sliding
          label="Darker than"
          of="threshold"
          value={threshold}
          min={1}
          max={255}
          step={1}
          change={(v) => set("trace", { threshold: v })}
        />
      )}
      <Sliding
        label="Within"
        of="toleranceMm"
        unit="mm"
        decimals={3}
        value={toleranceMm}
        min={0.005}
        max={0.5}
        step={0.005}
        change={(v) => set("trace", { toleranceMm: v })}
      />
      <Sliding
        label="Corners"
        of="corners"
        unit="%"
        scale={100}
        value={Math.round(corners * 100)}
        min={0}
        max={100}
        step={1}
        change={(v) => set("trace", { corners: v / 100 })}
      />
      {tones === 1 && (
        <Sliding
          label="Smooth"
          of="smoothMm"
          unit="mm"
          decimals={2}
          value={smoothMm}
          min={0}
          max={2}
          step={0.05}
          change={(v) => set("trace", { smoothMm: v })}
        />
      )}
      {tones === 1 && from === "tone" && (
        <Sliding
          label="Thin strokes"
          of="thin"
          unit="%"
          scale={100}
          value={Math.round(thin * 100)}
          min={0}
          max={100}
          step={5}
          change={(v) => set("trace", { thin: v / 100 })}
        />
      )}
      {tones === 1 && (
        <Sliding
          label="Centre lines"
          of="centreMm"
          unit="mm"
          decimals={2}
          value={centreMm}
          min={0}
          max={5}
          step={0.1}
          change={(v) => set("trace", { centreMm: v })}
        />
      )}
      <Sliding
        label="Shapes from"
        of="smallestMm2"
        unit="mm²"
        decimals={2}
        value={smallestMm2}
        min={0}
        max={10}
        step={0.05}
        change={(v) => set("trace", { smallestMm2: v })}
      />
      {tones === 1 && (
        <Sliding
          label="Holes from"
          of="smallestHoleMm2"
          unit="mm²"
          decimals={2}
          value={smallestHoleMm2}
          min={0}
          max={10}
          step={0.05}
          change={(v) => set("trace", { smallestHoleMm2: v })}
        />
      )}
    </>
  );
}

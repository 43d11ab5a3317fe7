import { settingsOf } from "@hardline/core/route/route";
import { type CutLineSettings } from "@hardline/core/stage/cutLine/settings";
import { Checkbox } from "../../shared/fields/controls";
import { type ReactNode } from "react";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import { NumberField } from "../../shared/fields/NumberField";
import field from "../../shared/fields/Field.module.css";
import { type PanelProps } from "../face";
import { LeaveOut } from "../LeaveOut";
import { useOwn } from "../ownPaths/useOwn";
import { PathPanel } from "../paths/PathPanel";
import { type PathTools } from "../paths/usePathTools";
import { CutGaps } from "./CutGaps";
import css from "./CutLine.module.css";
import { MachineFields } from "./MachineFields";
import { OwnPathField } from "./OwnPathField";
import { PartFields } from "./PartFields";
import { PrintFields } from "./PrintFields";
import { type CutNote } from "./worker";

/** From what, how far out, how round; gaps, tab, and what is done with the line. */
export function CutLinePanel({ scene, tools }: PanelProps<PathTools>) {
  const settings = settingsOf(scene.route, "cutLine")!;
  const { from, offsetMm, join, smoothMm, kind } = settings;
  const own = useOwn(scene.ticket.artwork);
  const traced = scene.route.stages.some((s) => s.stage === "trace");
  const note = scene.shown?.notes.cutLine as CutNote | undefined;
  const set = (change: Partial<CutLineSettings>) => scene.set("cutLine", change);
  return (
    <>
      <Field label="From">
        <Choice
          label="What the line goes round"
          value={from}
          options={[
            { value: "art", label: "the art", tip: "What Clear left, by its alpha" },
            ...(traced || from === "trace"
              ? [{ value: "trace" as const, label: "the trace", tip: "Round the traced shapes" }]
              : []),
            { value: "shape", label: "the piece", tip: "The piece's own shape, as Size has it" },
            ...(own?.groups.length || from === "drawing"
              ? [{ value: "drawing" as const, label: "its paths", tip: "Paths of the drawing itself" }]
              : []),
          ]}
          change={(v) =>
            set(
              v === "drawing" && own
                ? { from: v, drawing: own.over(own.groups[0], scene.route) }
                : { from: v },
            )
          }
        />
      </Field>
      {own && <OwnPathField {...{ scene, settings, own, set }} />}
      <Sliding
        label="Border"
        of="offsetMm"
        unit="mm"
        decimals={2}
        value={offsetMm}
        min={-5}
        max={15}
        step={0.1}
        change={(v) => set({ offsetMm: v })}
      />
      <Sliding
        label="Smooth"
        of="smoothMm"
        unit="mm"
        decimals={2}
        value={smoothMm}
        min={0}
        max={5}
        step={0.1}
        change={(v) => set({ smoothMm: v })}
      />
      <Field label="Corners" of="join">
        <Choice
          label="Corners of the border"
          value={join}
          options={[
            { value: "round", label: "round" },
            { value: "mitre", label: "mitre" },
            { value: "bevel", label: "bevel" },
          ]}
          change={(v) => set({ join: v })}
        />
      </Field>
      <CutGaps {...{ scene, settings }} gaps={note?.gaps ?? null} />
      <TabFields {...{ settings, set }} />
      <Field label="Runs as">
        <Choice
          label="What is done with the line"
          value={kind}
          options={[
            { value: "through", label: "through", tip: "Through everything" },
            { value: "kiss", label: "kiss", tip: "Through the top layer only" },
            { value: "score", label: "score", tip: "Run lightly" },
          ]}
          change={(v) => set({ kind: v })}
        />
      </Field>
      <More title="Edge and parts" open={settings.parts.keep !== "all" || settings.parts.bridgeMm > 0}>
        <PartFields {...{ settings, set }} />
      </More>
      <More title="Print to the line" open={settings.print !== undefined}>
        <PrintFields {...{ settings, set }} />
      </More>
      <More title="Blade or beam" open={settings.weedBoxMm !== undefined || settings.pass !== undefined}>
        <MachineFields {...{ settings, set }} />
      </More>
      <PathPanel {...{ scene, tools }} />
      <LeaveOut scene={scene} stage="cutLine" />
    </>
  );
}

export interface CutFieldsProps {
  readonly settings: CutLineSettings;
  readonly set: (change: Partial<CutLineSettings>) => void;
}

function More({ title, open, children }: { title: string; open: boolean; children: ReactNode }) {
  return (
    <details className={css.more} open={open || undefined}>
      <summary>{title}</summary>
      <div>{children}</div>
    </details>
  );
}

/** A hanging hole with its ring. */
function TabFields({ settings: { tab }, set }: CutFieldsProps) {
  if (!tab)
    return (
      <Field label="Tab">
        <Checkbox
          label="A hanging hole"
          checked={false}
          onChange={() => set({ tab: { holeMm: 3, ringMm: 8, at: "top" } })}
        />
      </Field>
    );
  return (
    <>
      <Field label="Tab">
        <NumberField
          label="Diameter of the hole"
          value={tab.holeMm}
          prefix="hole "
          unit="mm"
          min={0.5}
          max={100}
          step={0.5}
          change={(v) => set({ tab: widened({ ...tab, holeMm: v }) })}
        />
        <NumberField
          label="Diameter of the ring"
          value={tab.ringMm}
          prefix="ring "
          unit="mm"
          min={tab.holeMm + 0.5}
          max={200}
          step={0.5}
          change={(v) => set({ tab: { ...tab, ringMm: v } })}
        />
      </Field>
      <div className={css.tab}>
        {tab.at === "top" ? (
          <span className={field.note}>At the top</span>
        ) : (
          <button type="button" className={field.link} onClick={() => set({ tab: { ...tab, at: "top" } })}>
            Back to the top
          </button>
        )}
        <button type="button" className={field.link} onClick={() => set({ tab: undefined })}>
          No tab
        </button>
      </div>
    </>
  );
}

/** A ring is wider than its hole, whatever is typed. */
const widened = (tab: NonNullable<CutLineSettings["tab"]>): typeof tab => ({
  ...tab,
  ringMm: Math.max(tab.ringMm, tab.holeMm + 1),
});

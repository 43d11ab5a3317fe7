import { figure } from "@hardline/core/inspect/check";
import { type Finish } from "@hardline/core/result/finish";
import { type Route } from "@hardline/core/route/route";
import { spreadOf, variantsOf, type Axis } from "@hardline/core/spread/spread";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { useKeys } from "../../shared/keys";
import { useEffect, useMemo, useRef, useState } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type Stripe } from "../../engine/protocol";
import { useCalibration } from "../table/calibration";
import { place } from "../../table/geometry";
import { type Table } from "../table/useTable";
import { KeepStrip } from "./KeepStrip";
import css from "./StripPanel.module.css";
import { type Axes, type SpreadState } from "./useSpread";
import { answered } from "../../shared/answered";
import { Words } from "../../shared/Words";

const GAP = 8;
/** Variants in a row, and the height of their pictures by the number of rows. */
const ACROSS = 5;
const HEIGHTS = [112, 88, 68];

interface Props {
  readonly engine: BenchEngine;
  readonly route: Route;
  readonly saved: { readonly ticketId: string; readonly id: string; readonly revision: number };
  readonly finish: Finish;
  readonly table: Table;
  readonly axes: Axes;
  readonly spread: SpreadState;
  readonly change: (route: Route) => void;
}

/** Variants of the crop under view, dot for dot, with what is measured of each; a number keeps one. */
export function StripPanel({ engine, route, saved, finish, table, axes, spread, change }: Props) {
  const { pixelsPerMm } = useCalibration();
  const { variants, fault } = useMemo(() => {
    try {
      return { variants: variantsOf(route, axes), fault: null };
    } catch (error) {
      return { variants: [], fault: (error as Error).message };
    }
  }, [route, axes]);
  const [stripes, setStripes] = useState<readonly Stripe[]>([]);
  const [refused, setRefused] = useState<string | null>(null);
  // Tone is set for the sake of dots; what comes before is looked at itself.
  const [seen, setSeen] = useState<"stage" | "dots" | null>(null);
  const { stage } = axes[axes.length - 1];
  const dots = route.stages.findLast((s) => stageById(s.stage).gives === "plates")?.stage ?? null;
  const early = stage === "size" || stage === "clear";
  const shown: StageId = dots && (seen ?? (early ? "stage" : "dots")) === "dots" ? dots : stage;

  const across =
    axes.length > 1
      ? 3
      : Math.min(
          ACROSS,
          Math.max(1, variants.length <= ACROSS ? variants.length : Math.ceil(variants.length / 2)),
        );
  const down = Math.max(1, Math.ceil(variants.length / across));
  const height = HEIGHTS[Math.min(HEIGHTS.length, down) - 1];
  const width = Math.min(260, Math.floor((table.box.width - 24 - (across - 1) * GAP) / across));

  // The crop: the middle of what the table shows, as many dots as a picture has pixels.
  const placed = place(table.view, table.box, finish, pixelsPerMm);
  const middle = (start: number, size: number, zoom: number, all: number, room: number) => {
    const at = Math.round((size / 2 - start) / zoom - room / 2);
    return Math.max(0, Math.min(all - room, at));
  };
  const x = middle(placed.x, table.box.width, placed.zoom, finish.widthPx, width);
  const y = middle(placed.y, table.box.height, placed.zoom, finish.heightPx, height);
  const base = table.backing.colour;
  useEffect(() => {
    const timer = setTimeout(async () => {
      const pane = { stage: shown, part: { x, y, width, height }, width, height, base };
      const routes = variants.map((v) => v.route);
      const made = await answered(engine.strip(routes, pane), "The test strip was not made");
      if (made) setStripes(made);
    }, 120);
    return () => clearTimeout(timer);
  }, [engine, variants, shown, x, y, width, height, base]);

  const keep = (i: number) => {
    const variant = variants[i];
    if (variant && !variant.kept) change(variant.route);
  };
  useKeys([1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => [String(n), () => keep(n - 1)]));
  const labels = variants.map((v) => v.labels.join(", "));
  const title = axes.map((a) => a.title).join(" × ");

  return (
    <section className={css.strip} aria-label="Test strip">
      <header>
        <b>Test strip</b>
        {axes.map((axis) => (
          <Steps
            key={`${axis.stage} ${axis.path}`}
            {...{ axis, route, setRefused }}
            type={spread.type}
            drop={axes.length > 1 ? () => spread.drop(axis) : null}
          />
        ))}
        {dots && stage !== dots && (
          <span className={css.which} role="group" aria-label="Seen as">
            {(["stage", "dots"] as const).map((as) => (
              <button
                key={as}
                type="button"
                aria-pressed={(shown === dots) === (as === "dots")}
                onClick={() => setSeen(as)}
              >
                {as === "dots" ? "as dots" : stageById(stage).title}
              </button>
            ))}
          </span>
        )}
        <span className={css.end}>
          {dots && variants.length > 0 && (
            <KeepStrip
              {...{ engine, title, labels, saved }}
              routes={variants.map((v) => v.route)}
              part={{ x, y, width, height }}
            />
          )}
          <button type="button" className={css.close} onClick={spread.close} title="Close (Esc)">
            Close
          </button>
        </span>
      </header>
      {(refused ?? fault) && (
        <p className={css.fault} role="alert">
          {refused ?? fault}
        </p>
      )}
      {variants.length === 0 && !fault && <p className={css.hint}>There is nothing to spread out here.</p>}
      <div className={css.row} style={{ gridTemplateColumns: `repeat(${across}, ${width}px)` }}>
        {variants.map(({ labels: own, kept }, i) => (
          <button
            key={own.join(" ")}
            type="button"
            className={css.variant}
            aria-pressed={kept}
            onClick={() => keep(i)}
            title={`Keep it (${i + 1})`}
          >
            <Crop stripe={stripes[i] ?? null} {...{ width, height }} />
            <span className={css.words}>
              <span>
                {i + 1} {own.join(", ")}
              </span>
              {kept && <b>kept</b>}
            </span>
            <Readings stripe={stripes[i] ?? null} />
          </button>
        ))}
      </div>
      {variants.length > 0 && (
        <p className={css.hint}>
          Same crop, dot for dot; a number keeps one.{" "}
          {axes.length === 1 && "Shift+T on another control makes a grid of both."}
        </p>
      )}
    </section>
  );
}

function Readings({ stripe }: { stripe: Stripe | null }) {
  const readings = stripe?.readings;
  if (!readings) return <i>&nbsp;</i>;
  const { markedPercent, bareMm2 } = readings;
  return (
    <i className="mono" title="Of this crop: how much is marked, and areas without a dot">
      {figure(markedPercent)} %{bareMm2 > 0 && <Words of={`, ${figure(bareMm2)} mm² bare`} />}
    </i>
  );
}

interface StepsProps {
  readonly axis: Axis;
  readonly route: Route;
  readonly type: SpreadState["type"];
  readonly drop: (() => void) | null;
  readonly setRefused: (fault: string | null) => void;
}

/** The steps of one setting, to be changed by typing. */
function Steps({ axis, route, type, drop, setRefused }: StepsProps) {
  const { kind, steps } = useMemo(() => {
    try {
      return spreadOf(route, axis);
    } catch {
      return { kind: "fixed" as const, steps: [] };
    }
  }, [route, axis]);
  const shown = steps
    .map(({ value }) => (typeof value === "number" ? figure(value * (axis.scale ?? 1), 4) : String(value)))
    .join(", ");
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    if (typed !== null && typed !== shown) setRefused(type(axis, typed));
    setTyped(null);
  };
  return (
    <span className={css.axis}>
      <span>
        {axis.title}
        {axis.unit && `, ${axis.unit}`}
      </span>
      {kind !== "ways" && (
        <input
          aria-label={`Steps of ${axis.title}`}
          value={typed ?? shown}
          size={Math.min(30, Math.max(8, shown.length))}
          onChange={(e) => setTyped(e.currentTarget.value)}
          onBlur={done}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Enter") done();
            if (e.key === "Escape") setTyped(null);
          }}
        />
      )}
      {drop && (
        <button type="button" aria-label={`Leave ${axis.title} out`} onClick={drop}>
          ×
        </button>
      )}
    </span>
  );
}

function Crop({ stripe, width, height }: { stripe: Stripe | null; width: number; height: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const bitmap = stripe?.bitmap ?? null;
  useEffect(() => {
    const pen = canvas.current!.getContext("2d")!;
    pen.clearRect(0, 0, width, height);
    if (bitmap) pen.drawImage(bitmap, 0, 0);
  }, [bitmap, width, height]);
  return (
    <span className={css.crop} style={{ width, height }}>
      <canvas
        ref={canvas}
        width={width}
        height={height}
        style={{ width, height }}
        data-ready={stripe !== null}
        aria-hidden // the variant's button says which it is
      />
      {stripe?.fault && <em>{stripe.fault}</em>}
    </span>
  );
}

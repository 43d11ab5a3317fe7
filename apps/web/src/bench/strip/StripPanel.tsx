import {
  replaceSettings,
  settingsOf,
  stageById,
  type Finish,
  type Route,
  type StageId,
} from "@hardline/core";
import { useHotkeys } from "@mantine/hooks";
import { useEffect, useMemo, useRef, useState } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { useCalibration } from "../table/calibration";
import { place } from "../table/geometry";
import { type Table } from "../table/useTable";
import css from "./StripPanel.module.css";

const HEIGHT = 112;
const GAP = 8;

/** A setting of a stage that is spread out. */
export interface Spread {
  readonly stage: StageId;
  readonly fan: string;
}

/** The first setting of a route that can be spread out; null when none can. */
export function firstSpread(route: Route): Spread | null {
  const found = route.stages.findLast(({ stage }) => stageById(stage).fans);
  return found ? { stage: found.stage, fan: stageById(found.stage).fans![0].id } : null;
}

/** The route with each of the settings that a fan spreads out. */
function variantsOf(route: Route, stage: StageId, fanId: string) {
  const settings = settingsOf(route, stage);
  const fan = stageById(stage).fans?.find((f) => f.id === fanId);
  if (!settings || !fan) return [];
  return fan
    .spread(settings)
    .map(({ label, kept, settings: own }) => ({ label, kept, route: replaceSettings(route, stage, own) }));
}

interface Props {
  readonly engine: BenchEngine;
  readonly route: Route;
  readonly finish: Finish;
  readonly table: Table;
  readonly spread: Spread;
  readonly choose: (spread: Spread) => void;
  readonly change: (route: Route) => void;
  readonly close: () => void;
}

/** Five variants of the crop under view, dot for dot; a number keeps one. */
export function StripPanel({ engine, route, finish, table, spread, choose, change, close }: Props) {
  const { pixelsPerMm } = useCalibration();
  const { stage, fan: fanId } = spread;
  const fans = stageById(stage).fans ?? [];
  const fan = fans.find((f) => f.id === fanId)!;
  const variants = useMemo(() => variantsOf(route, stage, fanId), [route, stage, fanId]);
  const [pictures, setPictures] = useState<readonly ImageBitmap[]>([]);
  const width = Math.floor((table.box.width - 24 - 4 * GAP) / 5);

  // The crop: the middle of what the table shows, as many dots as a picture has pixels.
  const placed = place(table.view, table.box, finish, pixelsPerMm);
  const middle = (start: number, size: number, zoom: number, dots: number, room: number) => {
    const at = Math.round((size / 2 - start) / zoom - room / 2);
    return Math.max(0, Math.min(dots - room, at));
  };
  const x = middle(placed.x, table.box.width, placed.zoom, finish.widthPx, width);
  const y = middle(placed.y, table.box.height, placed.zoom, finish.heightPx, HEIGHT);
  const base = table.backing.colour;
  useEffect(() => {
    const timer = setTimeout(async () => {
      const pane = {
        stage,
        part: { x, y, width, height: HEIGHT },
        width,
        height: HEIGHT,
        base,
      };
      const made = await engine
        .strip(
          variants.map((v) => v.route),
          pane,
        )
        .catch(() => null);
      if (made) setPictures(made);
    }, 120);
    return () => clearTimeout(timer);
  }, [engine, variants, stage, x, y, width, base]);

  const keep = (i: number) => {
    const variant = variants[i];
    if (variant && !variant.kept) change(variant.route);
  };
  useHotkeys([1, 2, 3, 4, 5].map((n) => [String(n), () => keep(n - 1)]));

  return (
    <section className={css.strip} aria-label="Test strip">
      <header>
        <b>Test strip</b>
        <span className={css.which} role="group" aria-label="Setting">
          {fans.map(({ id, title }) => (
            <button
              key={id}
              type="button"
              aria-pressed={id === fanId}
              onClick={() => choose({ stage, fan: id })}
            >
              {title}
            </button>
          ))}
        </span>
        <span>
          {variants.length
            ? "Same crop, dot for dot. Press a number to keep one."
            : (fan.without ?? "There is nothing to spread out.")}
        </span>
        <button type="button" className={css.close} onClick={close} title="Close (Esc)">
          Close
        </button>
      </header>
      <div className={css.row}>
        {variants.map(({ label, kept }, i) => (
          <button
            key={label}
            type="button"
            className={css.variant}
            aria-pressed={kept}
            onClick={() => keep(i)}
          >
            <Crop bitmap={pictures[i] ?? null} width={width} />
            <span>
              {i + 1} {label}
              {kept && <b>kept</b>}
            </span>
          </button>
        ))}
      </div>
    </section>
  );
}

function Crop({ bitmap, width }: { bitmap: ImageBitmap | null; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pen = canvas.current!.getContext("2d")!;
    pen.clearRect(0, 0, width, HEIGHT);
    if (bitmap) pen.drawImage(bitmap, 0, 0);
  }, [bitmap, width]);
  return (
    <canvas
      ref={canvas}
      width={width}
      height={HEIGHT}
      style={{ width, height: HEIGHT }}
      data-ready={bitmap !== null}
      aria-hidden // the variant's button says which it is
    />
  );
}

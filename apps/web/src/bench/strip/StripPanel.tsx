import { settingsOf, type Finish, type Route } from "@hardline/core";
import { useHotkeys } from "@mantine/hooks";
import { useEffect, useMemo, useRef, useState } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import { type SetStage } from "../Docket";
import { markColour } from "../table/backings";
import { useCalibration } from "../table/calibration";
import { place } from "../table/geometry";
import { type Table } from "../table/useTable";
import css from "./StripPanel.module.css";
import { variantsOf, type StripSetting } from "./variants";

const HEIGHT = 112;
const GAP = 8;
const TITLES: Record<StripSetting, string> = { method: "Method", strength: "Strength" };

interface Props {
  readonly engine: BenchEngine;
  readonly route: Route;
  readonly finish: Finish;
  readonly table: Table;
  readonly material: string | undefined;
  readonly set: SetStage;
  readonly setting: StripSetting;
  readonly choose: (setting: StripSetting) => void;
  readonly close: () => void;
}

/** Five variants of the crop under view, dot for dot; a number keeps one. */
export function StripPanel({ engine, route, finish, table, material, set, setting, choose, close }: Props) {
  const { pixelsPerMm } = useCalibration();
  const variants = useMemo(() => variantsOf(route, setting), [route, setting]);
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
  const mark = markColour(material);
  const base = table.backing.colour;
  useEffect(() => {
    const timer = setTimeout(async () => {
      const pane = {
        stage: "blackWhite" as const,
        part: { x, y, width, height: HEIGHT },
        width,
        height: HEIGHT,
        mark,
        base,
      };
      const made = await engine.strip({ routes: variants.map((v) => v.route), pane }).catch(() => null);
      if (made) setPictures(made);
    }, 120);
    return () => clearTimeout(timer);
  }, [engine, variants, x, y, width, mark, base]);

  const keep = (i: number) => {
    const variant = variants[i];
    if (!variant || variant.kept) return;
    const cleared = Object.fromEntries(
      Object.keys(settingsOf(route, "blackWhite")!).map((k) => [k, undefined]),
    );
    set("blackWhite", { ...cleared, ...settingsOf(variant.route, "blackWhite") });
  };
  useHotkeys([1, 2, 3, 4, 5].map((n) => [String(n), () => keep(n - 1)]));

  return (
    <section className={css.strip} aria-label="Test strip">
      <header>
        <b>Test strip</b>
        <span className={css.which} role="group" aria-label="Setting">
          {(Object.keys(TITLES) as StripSetting[]).map((s) => (
            <button key={s} type="button" aria-pressed={s === setting} onClick={() => choose(s)}>
              {TITLES[s]}
            </button>
          ))}
        </span>
        <span>
          {variants.length
            ? "Same crop, dot for dot. Press a number to keep one."
            : "Strength is a setting of Scatter."}
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
    />
  );
}

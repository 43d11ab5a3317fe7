import { mmOfDots } from "@hardline/core/maths/units";
import { type Finish } from "@hardline/core/result/finish";
import { type Reading } from "@hardline/core/result/read";
import { Tooltip } from "@mantine/core";
import { useState } from "react";
import { decimals, toUnit, useUnit } from "../../shared/unit";
import { useCalibration } from "./calibration";
import { CalibrateDialog } from "./CalibrateDialog";
import { type Placed, type ZoomMode } from "../../table/geometry";
import css from "./LightTable.module.css";
import { type Pointed } from "./pointed";
import { type Table } from "./useTable";

const MODES: readonly { mode: ZoomMode; label: string; tip: string }[] = [
  { mode: "fit", label: "Fit", tip: "The whole picture (F)" },
  { mode: "dot", label: "Dot for dot", tip: "One screen pixel a dot (D)" },
  { mode: "real", label: "Real size", tip: "As large as the piece (R); pressed again, measures the screen" },
];

interface Props {
  readonly table: Table;
  readonly placed: Placed | null;
  readonly pointed: Pointed | null;
  readonly finish: Finish | null;
  readonly backingColour: (colour: number) => string;
  readonly others: readonly { readonly id: string; readonly name: string }[];
}

/** A single plate is marked or bare; of several, those that are marked are named. */
function marksText({ plates }: Reading): string {
  if (plates.length === 0) return "";
  if (plates.some((p) => p.percent !== undefined)) return inksText(plates);
  if (plates.length === 1) return plates[0].marked ? " mark" : " bare";
  return ` ${
    plates
      .filter((p) => p.marked)
      .map((p) => p.name)
      .join(" ") || "bare"
  }`;
}

/** Of inks the percent of each that is wanted there; zero is said too, where all are. */
function inksText(plates: Reading["plates"]): string {
  const printed = plates.filter((p) => p.percent! > 0).map((p) => `${p.name} ${p.percent!.toFixed(0)}`);
  return printed.length > 0 ? ` ${printed.join("  ")}` : " all 0 %";
}

/** The light table's own bar: zoom, wipe, backing, and the reading under the pointer. */
export function TableBar({ table, placed, pointed, finish, backingColour, others }: Props) {
  const { view, setMode, wipe, toggleWipe, backing, backings, setBacking } = table;
  const { onMaterial, toggleMaterial, besideId, setBeside } = table;
  const { measured } = useCalibration();
  const [calibrating, setCalibrating] = useState(false);
  return (
    <div className={css.bar}>
      <div role="group" aria-label="Zoom">
        {MODES.map(({ mode, label, tip }) => (
          <Tooltip key={mode} label={tip}>
            <button
              type="button"
              aria-pressed={view.mode === mode}
              onClick={() => {
                setMode(mode);
                if (mode === "real" && (!measured || view.mode === "real")) setCalibrating(true);
              }}
            >
              {label}
            </button>
          </Tooltip>
        ))}
      </div>
      <div>
        <Tooltip label="Two stages side by side under a movable edge (W)">
          <button type="button" aria-pressed={wipe.on} onClick={toggleWipe}>
            Wipe
          </button>
        </Tooltip>
        <Tooltip label="Marks as they will look on the material (M)">
          <button type="button" aria-pressed={onMaterial} onClick={toggleMaterial}>
            Material
          </button>
        </Tooltip>
        {others.length > 0 && (
          <select
            aria-label="Route that lies beside this one"
            title="Another route of the ticket beside this one (N)"
            value={besideId ?? ""}
            onChange={(e) => setBeside(e.currentTarget.value || null)}
          >
            <option value="">Alone</option>
            {others.map(({ id, name }) => (
              <option key={id} value={id}>
                beside {name}
              </option>
            ))}
          </select>
        )}
      </div>
      <Tooltip label="Colour behind the art (B steps)">
        <div className={css.backings} role="group" aria-label="Backing">
          <span>Backing</span>
          {backings.map(({ name, colour }, i) => (
            <button
              key={name}
              type="button"
              aria-label={name}
              aria-pressed={backing.name === name}
              style={{ background: backingColour(colour) }}
              onClick={() => setBacking(i)}
            />
          ))}
        </div>
      </Tooltip>
      <Readout {...{ placed, pointed, finish }} />
      <CalibrateDialog opened={calibrating} close={() => setCalibrating(false)} />
    </div>
  );
}

function Readout({ placed, pointed, finish }: Pick<Props, "placed" | "pointed" | "finish">) {
  const { unit } = useUnit();
  const inside =
    pointed &&
    finish &&
    pointed.x >= 0 &&
    pointed.y >= 0 &&
    pointed.x < finish.widthPx &&
    pointed.y < finish.heightPx;
  const at = (dots: number) => toUnit(mmOfDots(dots, finish!), unit).toFixed(decimals(unit));
  const zoom =
    placed &&
    (placed.zoom >= 1 ? `${Number(placed.zoom.toFixed(2))}:1` : `1:${Number((1 / placed.zoom).toFixed(2))}`);
  return (
    <>
      {inside && (
        <div className={`mono ${css.readout} ${css.pointed}`}>
          <span>
            {at(pointed.x)} {at(pointed.y)} {unit}
          </span>
          {pointed.reading && (
            <span>
              {pointed.reading.tone === null ? "" : `${pointed.reading.tone.toFixed(0).padStart(3)} %`}
              {marksText(pointed.reading)}
            </span>
          )}
        </div>
      )}
      <div className={`mono ${css.readout}`}>
        <span title="Screen pixels to dots">{zoom}</span>
      </div>
    </>
  );
}

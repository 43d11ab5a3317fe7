import { LEAST_DPI, MM_PER_INCH, MOST_DPI } from "@hardline/core/maths/units";
import { turnedSize } from "@hardline/core/turn/turn";
import { settingsOf } from "@hardline/core/route/route";
import { cutDown } from "@hardline/core/stage/size/finish";
import { MOST_MM } from "@hardline/core/stage/size/settings";
import { Button } from "@mantine/core";
import { Select } from "../../shared/fields/controls";
import { Choice, Field } from "../../shared/fields/Field";
import css from "../../shared/fields/Field.module.css";
import { NumberField } from "../../shared/fields/NumberField";
import { type PanelProps } from "../face";
import { IconCrop } from "@tabler/icons-react";
import { useOwn } from "../ownPaths/useOwn";
import { TurnFields } from "./TurnFields";
import { type SizeTools } from "./useSizeTools";
import { PaperFields } from "./paper/PaperFields";
import { PieceBox, shapeFor, shapesFor } from "./PieceBox";
import { ShapeFile } from "./ShapeFile";

const RESAMPLE = [
  { value: "lanczos3", label: "Lanczos, sharp" },
  { value: "bicubic", label: "Bicubic, softer" },
  { value: "box", label: "Area average" },
  { value: "none", label: "None: pixels as they are" },
];
const DENSITIES = [127, 150, 254, 300, 508, 600];

/** Finish size and dots per inch; what the artwork has to offer for it. */
export function SizePanel({ scene, tools }: PanelProps<SizeTools>) {
  const { cropping, setCropping } = tools;
  const { route, set, finish, ticket } = scene;
  const { widthMm, heightMm, dotsPerInch, resample, shape } = settingsOf(route, "size")!;
  const artwork = { ...ticket.artwork, ...turnedSize(ticket.artwork, settingsOf(route, "size")!) };
  const own = useOwn(ticket.artwork);
  const side = heightMm !== undefined ? "heightMm" : "widthMm";
  const given = side === "heightMm" ? heightMm : widthMm;
  const plain = resample === "none";
  const shown = given ?? (finish ? finish.widthMm : 0);
  const keepSize = finish && { width: finish.widthMm, height: finish.heightMm };
  const perInch = finish && (cutDown(artwork, shape).width / finish.widthMm) * MM_PER_INCH;
  return (
    <>
      <Field label="Side" of={plain ? undefined : side} unit="mm">
        <Choice
          label="Side that is given"
          value={side}
          options={[
            { value: "widthMm", label: "width" },
            { value: "heightMm", label: "height" },
          ]}
          change={(next) =>
            !plain &&
            keepSize &&
            set("size", {
              widthMm: undefined,
              heightMm: undefined,
              [next]: round(next === "widthMm" ? keepSize.width : keepSize.height),
            })
          }
        />
        <NumberField
          label={side === "widthMm" ? "Width" : "Height"}
          unit="mm"
          value={shown}
          min={1}
          max={MOST_MM}
          disabled={plain}
          change={(mm) => set("size", { [side]: mm })}
        />
      </Field>
      <Field label="Dots per inch" of="dotsPerInch">
        <NumberField
          label="Dots per inch"
          value={dotsPerInch}
          min={LEAST_DPI}
          max={MOST_DPI}
          change={(v) => set("size", { dotsPerInch: v })}
        />
        <Select
          aria-label="Usual dots per inch"
          placeholder="usual"
          data={DENSITIES.map(String)}
          value={DENSITIES.includes(dotsPerInch) ? String(dotsPerInch) : null}
          onChange={(v) => v && set("size", { dotsPerInch: Number(v) })}
        />
      </Field>
      <Field label="Resample" of="resample">
        <Select
          aria-label="Resample"
          data={RESAMPLE}
          value={resample}
          onChange={(v) =>
            set(
              "size",
              v === "none"
                ? { resample: v, widthMm: undefined, heightMm: undefined }
                : plain && keepSize
                  ? { resample: v, widthMm: round(keepSize.width) }
                  : { resample: v },
            )
          }
        />
      </Field>
      <PaperFields scene={scene} tools={tools} />
      <TurnFields {...scene} />
      <Field label="Piece">
        <Select
          aria-label="Shape of the piece"
          data={shapesFor(shape)}
          value={shape.kind}
          allowDeselect={false}
          onChange={(kind) => set("size", { shape: shapeFor(kind!, shape, artwork) })}
        />
      </Field>
      <Field label="Crop">
        <Button
          size="xs"
          variant={cropping ? "filled" : "default"}
          aria-pressed={cropping}
          leftSection={<IconCrop size={15} />}
          onClick={() => setCropping(!cropping)}
        >
          {cropping ? "Done" : "Crop by dragging"}
        </Button>
      </Field>
      <ShapeFile {...{ shape, set, artwork }} own={own?.groups[0] ? own.over(own.groups[0], route) : null} />
      {shape.kind !== "whole" && <PieceBox {...{ shape, set }} />}
      {finish && (
        <p className={css.note}>
          <b className="mono">
            {finish.widthPx} × {finish.heightPx}
          </b>{" "}
          dots.{" "}
          {artwork.vector ? (
            "Drawn from shapes, as sharp as the dots."
          ) : (
            <>
              The source has <b className="mono">{perInch!.toFixed(0)}</b> pixels an inch here for{" "}
              <b className="mono">{Number(dotsPerInch.toFixed(1))}</b> dots.
            </>
          )}
        </p>
      )}
    </>
  );
}

const round = (mm: number): number => Math.round(mm * 100) / 100;

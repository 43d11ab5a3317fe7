import { settingsOf } from "@hardline/core/route/route";
import { usualInk } from "@hardline/core/stage/films/inks";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { Select } from "../../shared/fields/controls";
import { Choice, Field, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type PanelProps } from "../face";
import { LeaveOut } from "../LeaveOut";
import { ColourBox } from "../../shared/fields/ColourBox";
import css from "./Films.module.css";
import { InkList } from "./InkList";
import { inksOf, noteOf } from "./inksOf";
import { PrinterFields } from "./PrinterFields";
import { SeparateFields } from "./SeparateFields";
import { type FilmTools } from "./useFilms";
import { ViewFields } from "./ViewFields";
import { type FindWish } from "./worker";
import { answered } from "../../shared/answered";

const COUNTS = [
  { value: "auto", label: "as many as the art has" },
  ...[1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((n) => ({ value: String(n), label: `${n} found anew` })),
];

const KINDS: readonly {
  readonly value: FilmsSettings["separate"];
  readonly label: string;
  readonly tip: string;
}[] = [
  { value: "flat", label: "flat", tip: "Each pixel to its ink; soft edges are shared by two" },
  { value: "tonal", label: "tonal", tip: "Each pixel as amounts of the inks on the garment's colour" },
  { value: "process", label: "process", tip: "Cyan, magenta, yellow and black, and flat inks beside them" },
  { value: "black", label: "one black", tip: "Ground at exactly zero, darkest point full" },
];

/** The inks of an art, how each is printed, and how the print is looked at. */
export function FilmsPanel({ scene, tools }: PanelProps<FilmTools>) {
  const { route, set, engine } = scene;
  const settings = settingsOf(route, "films")!;
  const { separate, garment, inks: given } = settings;
  const inks = inksOf(scene);
  const listed = Array.isArray(given);
  const note = noteOf(scene);
  const find = async (value: string): Promise<void> => {
    const count = value === "auto" ? value : Number(value);
    const locked = inks.filter((i) => i.locked || i.role !== "ink");
    if (separate !== "flat" || locked.length === 0 || !engine) return set("films", { inks: count });
    const wish: FindWish = { count, garment, locked };
    const asked = engine.ask<FilmsSettings["inks"] | null>({ stage: "films", name: "find", wish });
    const found = await answered(asked, "The inks were not found");
    if (found) set("films", { inks: found });
  };
  const under = () =>
    set("films", {
      inks: [
        usualInk({
          name: inks.some((i) => i.name === "white") ? "base" : "white",
          colour: "#ffffff",
          role: "underbase",
          spreadMm: -0.2,
        }),
        ...inks,
      ],
    });
  const over = () =>
    set("films", { inks: [...inks, usualInk({ name: "highlight", colour: "#ffffff", role: "highlight" })] });
  return (
    <>
      <ViewFields {...{ tools }} />
      <Field label="Inks">
        <Choice
          label="How the art is parted into inks"
          value={separate}
          options={KINDS}
          change={(v) => set("films", { separate: v, inks: v === separate ? given : "auto" })}
        />
      </Field>
      <Field label="Garment">
        <ColourBox
          label="Colour of the garment"
          colour={garment}
          change={(v) => set("films", { garment: v })}
        />
      </Field>
      {separate !== "process" && separate !== "black" && (
        <Field label="Found">
          <Select
            aria-label="How many inks are found"
            data={listed ? [{ value: "listed", label: `${inks.length}, as listed` }, ...COUNTS] : COUNTS}
            value={listed ? "listed" : String(given)}
            allowDeselect={false}
            onChange={(v) => v && v !== "listed" && void find(v)}
          />
        </Field>
      )}
      {note?.reason && !listed && <p className={field.note}>{note.reason}</p>}
      <InkList {...{ scene, tools, inks, settings }} />
      <div className={css.add}>
        {separate !== "black" && (
          <button
            type="button"
            className={field.link}
            aria-pressed={tools.picking}
            onClick={() => tools.setPicking(!tools.picking)}
          >
            {tools.picking ? "Click the picture …" : "Add from the picture"}
          </button>
        )}
        {inks.every((i) => i.role !== "underbase") && (
          <button type="button" className={field.link} onClick={under}>
            White under
          </button>
        )}
        {inks.every((i) => i.role !== "highlight") && (
          <button type="button" className={field.link} onClick={over}>
            White on top
          </button>
        )}
      </div>
      <SeparateFields {...{ scene, settings }} />
      {separate === "flat" && (
        <Sliding
          label="Trap"
          of="trapMm"
          unit="mm"
          decimals={2}
          value={settings.trapMm}
          min={0}
          max={1}
          step={0.05}
          change={(v) => set("films", { trapMm: v })}
        />
      )}
      <PrinterFields {...{ scene, settings }} />
      <LeaveOut scene={scene} stage="films" />
    </>
  );
}

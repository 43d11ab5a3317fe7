import { FileButton } from "@mantine/core";
import { drive } from "@hardline/core/maths/work";
import { settingsOf } from "@hardline/core/route/route";
import { useState } from "react";
import { useHouseRoutes } from "../../api/house";
import { breath } from "../../shared/breath";
import { Choice, Field, Percent, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { tellFault } from "../../shared/tell";
import { type PanelProps } from "../face";
import { ColourBox } from "../../shared/fields/ColourBox";
import { LeaveOut } from "../LeaveOut";
import css from "./Colour.module.css";
import { inksOfRoutes } from "./inksOfRoutes";
import { USUAL_PALETTE } from "./model";
import { pixelsOfFile } from "./pixelsOfFile";
import { type ColourTools } from "./useColour";

/** Colours that a picture gives. */
const FROM_A_PICTURE = 8;
const MOST = 48;

/** Which colour is in hand, the palette, and which gaps in lines are closed. */
export function ColourPanel({ scene, tools }: PanelProps<ColourTools>) {
  const { route, set } = scene;
  const { gapMm, lines, areas, palette } = settingsOf(route, "colour")!;
  const { data: house = [] } = useHouseRoutes();
  const [busy, setBusy] = useState(false);
  const { colour, setColour } = tools;
  const own = palette.length > 0 ? palette : [...USUAL_PALETTE];
  const used = [...new Set(areas.flatMap((a) => (a.colour ? [a.colour.toLowerCase()] : [])))];
  const inks = inksOfRoutes([route, ...house.map((h) => h.route)]);
  const keep = (more: readonly string[]) =>
    set("colour", { palette: [...new Set([...own, ...more])].slice(-MOST) });
  const fromPicture = async (file: File | null) => {
    if (!file) return;
    setBusy(true);
    try {
      // Only who wants it waits for it.
      const { findColours } = await import("@hardline/core/film/clusters");
      const { colours } = await drive(findColours(await pixelsOfFile(file), FROM_A_PICTURE), {
        pause: breath,
      });
      keep(colours.map((c) => c.colour));
    } catch (error) {
      tellFault(`${file.name} gave no colours`, error);
    }
    setBusy(false);
  };
  return (
    <>
      <Field label="Hand">
        <Choice
          label="What the pointer does"
          value={tools.hand}
          options={[
            { value: "colour", label: "colours" },
            { value: "shade", label: "shades", tip: "A second colour, from one place of an area to another" },
          ]}
          change={tools.setHand}
        />
      </Field>
      <Field label="Colour">
        <ColourBox label="Colour in hand" colour={colour} change={setColour} />
        {!own.includes(colour) && (
          <button type="button" className={field.link} onClick={() => keep([colour])}>
            Keep
          </button>
        )}
      </Field>
      <Swatches title="Palette" colours={own} {...{ colour, setColour }} />
      {used.length > 0 && <Swatches title="In use" colours={used} {...{ colour, setColour }} />}
      {inks.length > 0 && <Swatches title="Shop's inks" colours={inks} {...{ colour, setColour }} />}
      <p className={css.more}>
        <FileButton accept="image/*" onChange={(file) => void fromPicture(file)}>
          {(props) => (
            <button type="button" className={field.link} disabled={busy} {...props}>
              {busy ? "Looking…" : "Colours from a picture"}
            </button>
          )}
        </FileButton>
        {palette.length > 0 && (
          <button type="button" className={field.link} onClick={() => set("colour", { palette: [] })}>
            The usual palette
          </button>
        )}
      </p>
      <Sliding
        label="Gaps to"
        of="gapMm"
        unit="mm"
        decimals={2}
        value={gapMm}
        min={0}
        max={5}
        step={0.05}
        change={(v) => set("colour", { gapMm: v })}
      />
      <Percent
        label="Lines from"
        of="lines"
        value={lines}
        max={95}
        step={1}
        change={(v) => set("colour", { lines: Math.max(0.05, v) })}
      />
      {areas.length > 0 && (
        <p className={css.more}>
          <span>
            <b className="mono">{areas.filter((a) => a.colour).length}</b> areas coloured
          </span>
          <button type="button" className={field.link} onClick={() => set("colour", { areas: [] })}>
            Take all back
          </button>
        </p>
      )}
      <LeaveOut scene={scene} stage="colour" />
    </>
  );
}

interface SwatchProps {
  readonly title: string;
  readonly colours: readonly string[];
  readonly colour: string;
  readonly setColour: (colour: string) => void;
}

const Swatches = ({ title, colours, colour, setColour }: SwatchProps) => (
  <div className={css.swatches} role="radiogroup" aria-label={title}>
    <span>{title}</span>
    <div>
      {colours.map((own) => (
        <button
          key={own}
          type="button"
          role="radio"
          aria-checked={own === colour}
          aria-label={own}
          title={own}
          style={{ background: own }}
          onClick={() => setColour(own)}
        />
      ))}
    </div>
  </div>
);

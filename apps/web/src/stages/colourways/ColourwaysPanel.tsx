import { MOST_WAYS } from "@hardline/core/recolour/colourway";
import { settingsOf } from "@hardline/core/route/route";
import { stageById } from "@hardline/core/stage/stages";
import { useState } from "react";
import field from "../../shared/fields/Field.module.css";
import { NumberField } from "../../shared/fields/NumberField";
import { type PanelProps } from "../face";
import { inksOf } from "../films/inksOf";
import css from "./Colourways.module.css";
import { type WayTools } from "./useWays";
import { WayEntry } from "./WayEntry";
import { garmentOf, hueWays, newWay, putWays } from "./ways";
import { WaysBeside } from "./WaysBeside";

/** Ways of making the same: kept by name on the route, one of them chosen for all that is seen, or all side by side. */
export function ColourwaysPanel({ scene, tools }: PanelProps<WayTools>) {
  const { route, way, setWay } = scene;
  const { colourways } = route;
  const [beside, setBeside] = useState(false);
  const [turns, setTurns] = useState(4);
  const inks = settingsOf(route, "films") ? inksOf(scene) : [];
  const seen = route.stages.some((s) => stageById(s.stage).inColourways);
  if (!seen)
    return (
      <p className={field.note}>
        Films, Transfer, a printed cut line and Mock-up are seen in colourways. None of them is on this route.
      </p>
    );
  const full = colourways.length >= MOST_WAYS;
  const garment = garmentOf(route);
  const add = () => {
    const made = newWay(colourways, way?.garment ?? garment);
    putWays(scene, (ways) => [...ways, made]);
    setWay(made.name);
  };
  const range = () => {
    const like = { garment: way?.garment ?? garment, recolour: way?.recolour ?? [] };
    putWays(scene, (ways) => [...ways, ...hueWays(ways, turns, inks, like)]);
  };
  const canTurn = inks.length > 0 || (way?.recolour.length ?? 0) > 0;
  return (
    <section className={css.ways} aria-label="Colourways">
      <div className={css.entry}>
        <div className={css.line}>
          <button type="button" className={css.name} aria-pressed={way === null} onClick={() => setWay(null)}>
            As it is
          </button>
          <button type="button" className={field.link} disabled={full} onClick={add}>
            Add
          </button>
          {colourways.length > 0 && (
            <button type="button" className={field.link} onClick={() => setBeside(true)}>
              Side by side
            </button>
          )}
        </div>
      </div>
      {colourways.map((one) => (
        <WayEntry key={one.name} {...{ scene, tools, inks }} way={one} chosen={way === one} />
      ))}
      <div className={css.range}>
        <span>A range of</span>
        <NumberField
          size="xs"
          label="How many hues"
          value={turns}
          min={2}
          max={12}
          decimals={0}
          change={setTurns}
        />
        <span>hues</span>
        <button
          type="button"
          className={field.link}
          disabled={full || !canTurn}
          title={canTurn ? undefined : "First choose a colourway that changes a colour"}
          onClick={range}
        >
          Make
        </button>
      </div>
      {beside && <WaysBeside {...{ scene, inks }} close={() => setBeside(false)} />}
    </section>
  );
}

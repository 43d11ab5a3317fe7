import { hueTurned } from "@hardline/core/film/hues";
import { type Ink } from "@hardline/core/film/ink";
import { type Colourway, type FilmsSettings } from "@hardline/core/stage/films/settings";
import { TextInput } from "@mantine/core";
import { useState } from "react";
import { NumberField } from "../../shared/fields/NumberField";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./Films.module.css";
import { type FilmTools } from "./useFilms";
import { WaysBeside } from "./WaysBeside";

interface Props {
  readonly scene: BenchScene;
  readonly tools: FilmTools;
  readonly inks: readonly Ink[];
  readonly settings: FilmsSettings;
}

const MOST = 12;

/** The same films on other garments and in other inks: kept by name, seen one by one or side by side. */
export function Colourways({ scene, tools, inks, settings }: Props) {
  const { colourways, garment } = settings;
  const [beside, setBeside] = useState(false);
  const [turns, setTurns] = useState(4);
  const put = (next: readonly Colourway[]) => scene.set("films", { colourways: next });
  const change = (k: number, more: Partial<Colourway>) =>
    put(colourways.map((w, j) => (j === k ? { ...w, ...more } : w)));
  const add = () => {
    put([...colourways, { name: `Colourway ${colourways.length + 1}`, garment, colours: {}, shown: true }]);
    tools.setWay(colourways.length);
  };
  const range = () => {
    const count = Math.min(turns, MOST - colourways.length);
    const made = Array.from({ length: count }, (_, n): Colourway => {
      const degrees = Math.round((360 * (n + 1)) / (turns + 1));
      const colours = Object.fromEntries(
        inks.filter((i) => i.role === "ink").map((i) => [i.name, hueTurned(i.colour, degrees)]),
      );
      return { name: `Hue ${degrees}°`, garment, colours, shown: true };
    });
    put([...colourways, ...made]);
  };
  return (
    <section className={css.ways} aria-label="Colourways">
      <p>
        <b>Colourways</b>
        <button type="button" className={field.link} disabled={colourways.length >= MOST} onClick={add}>
          Add
        </button>
        {colourways.length > 0 && (
          <button type="button" className={field.link} onClick={() => setBeside(true)}>
            Side by side
          </button>
        )}
      </p>
      {colourways.map((way, k) => {
        const open = tools.way === k;
        return (
          <div key={k} className={open ? css.openInk : undefined}>
            <div className={css.ink}>
              <input
                type="color"
                aria-label={`Garment of ${way.name}`}
                value={way.garment}
                onChange={(e) => change(k, { garment: e.target.value })}
              />
              <button
                type="button"
                className={css.name}
                aria-expanded={open}
                onClick={() => tools.setWay(open ? null : k)}
              >
                {way.name}
              </button>
              <label className={css.onProof} title="Stands on the customer's proof">
                <input
                  type="checkbox"
                  checked={way.shown}
                  onChange={(e) => change(k, { shown: e.target.checked })}
                />
                proof
              </label>
            </div>
            {open && (
              <div className={css.fields}>
                <TextInput
                  size="xs"
                  aria-label="Name of the colourway"
                  key={way.name}
                  defaultValue={way.name}
                  maxLength={40}
                  onBlur={(e) =>
                    e.currentTarget.value.trim() && change(k, { name: e.currentTarget.value.trim() })
                  }
                />
                <div className={css.swatches}>
                  {inks.map((ink) => (
                    <input
                      key={ink.name}
                      type="color"
                      title={ink.name}
                      aria-label={`${ink.name} in ${way.name}`}
                      value={way.colours[ink.name] ?? ink.colour}
                      onChange={(e) => change(k, { colours: { ...way.colours, [ink.name]: e.target.value } })}
                    />
                  ))}
                  <button
                    type="button"
                    className={field.link}
                    onClick={() => (put(colourways.filter((_, j) => j !== k)), tools.setWay(null))}
                  >
                    Take off
                  </button>
                </div>
              </div>
            )}
          </div>
        );
      })}
      <div className={css.range}>
        <span>A range of</span>
        <NumberField
          size="xs"
          label="How many hues"
          value={turns}
          min={2}
          max={11}
          decimals={0}
          change={setTurns}
        />
        <span>hues</span>
        <button type="button" className={field.link} disabled={colourways.length >= MOST} onClick={range}>
          Make
        </button>
      </div>
      {beside && <WaysBeside {...{ scene, inks, settings }} close={() => setBeside(false)} />}
    </section>
  );
}

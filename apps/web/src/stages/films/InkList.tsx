import { type Ink } from "@hardline/core/film/ink";
import { type PlateReading } from "@hardline/core/inspect/check";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { readingsOf, type BenchScene } from "../face";
import css from "./Films.module.css";
import { InkFields } from "./InkFields";
import { type FilmTools } from "./useFilms";

interface Props {
  readonly scene: BenchScene;
  readonly tools: FilmTools;
  readonly inks: readonly Ink[];
  readonly settings: FilmsSettings;
}

/** The inks in print order: each shown or hidden, its colour, and its settings when it is opened. */
export function InkList({ scene, tools, inks, settings }: Props) {
  const plates = (readingsOf(scene, "films")?.plates ?? []) as readonly PlateReading[];
  const put = (next: readonly Ink[]) => scene.set("films", { inks: next });
  return (
    <ol className={css.inks} aria-label="Inks in print order">
      {inks.map((ink, k) => {
        const seen = !tools.hidden.includes(ink.name);
        const open = tools.openInk === ink.name;
        const covers = plates.find((p) => p.name === ink.name)?.percent;
        return (
          <li key={ink.name} className={open ? css.openInk : undefined}>
            <div className={css.ink}>
              <button
                type="button"
                className={css.eye}
                aria-pressed={seen}
                aria-label={`${k + 1}, ${ink.name} is shown`}
                title={`Shows or hides ${ink.name} (${k + 1}); alone with Alt`}
                onClick={(e) => (e.altKey ? tools.alone(inks, k) : tools.toggle(ink.name))}
              >
                {k + 1}
              </button>
              <input
                type="color"
                aria-label={`Colour of ${ink.name}`}
                value={ink.colour}
                onChange={(e) => put(inks.map((i, j) => (j === k ? { ...i, colour: e.target.value } : i)))}
              />
              <button
                type="button"
                className={css.name}
                aria-expanded={open}
                onClick={() => tools.setOpenInk(open ? null : ink.name)}
              >
                {ink.name}
                {ink.role !== "ink" && <em>{ink.role === "underbase" ? "under" : "on top"}</em>}
                {ink.locked && <em>kept</em>}
              </button>
              <span className="mono">{covers === undefined ? "" : `${covers.toFixed(1)} %`}</span>
            </div>
            {open && <InkFields {...{ scene, tools, inks, settings, k, put }} />}
          </li>
        );
      })}
    </ol>
  );
}

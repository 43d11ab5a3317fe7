import { type Ink } from "@hardline/core/film/ink";
import { type Colourway } from "@hardline/core/recolour/colourway";
import { TextInput } from "@mantine/core";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import { ChangeFields } from "./ChangeFields";
import css from "./Colourways.module.css";
import { type WayTools } from "./useWays";
import { changeFrom, changeWay, garmentOf, hasRoom, putWays } from "./ways";

interface Props {
  readonly scene: BenchScene;
  readonly tools: WayTools;
  readonly inks: readonly Ink[];
  readonly way: Colourway;
  readonly chosen: boolean;
}

/** One colourway: its cloth, its inks, what its colours become. */
export function WayEntry({ scene, tools, inks, way, chosen }: Props) {
  const change = (more: Partial<Colourway>) => changeWay(scene, way.name, more);
  const rename = (typed: string) => {
    const name = typed.trim();
    if (!name || name === way.name) return;
    change({ name });
    scene.setWay(name);
  };
  const { recolour } = way;
  const art =
    scene.route.stages.some((s) => s.stage === "transfer" || s.stage === "cutLine") || inks.length === 0;
  return (
    <div className={`${css.entry} ${chosen ? css.open : ""}`}>
      <div className={css.line}>
        <input
          type="color"
          aria-label={`Cloth of ${way.name}`}
          value={way.garment}
          onChange={(e) => change({ garment: e.target.value })}
        />
        <button
          type="button"
          className={css.name}
          aria-pressed={chosen}
          onClick={() => scene.setWay(chosen ? null : way.name)}
        >
          {way.name}
        </button>
        <label className={css.onProof} title="Handed over, and on what the customer sees">
          <input type="checkbox" checked={way.shown} onChange={(e) => change({ shown: e.target.checked })} />
          shown
        </label>
      </div>
      {chosen && (
        <div className={css.fields}>
          <TextInput
            size="xs"
            aria-label="Name of the colourway"
            key={way.name}
            defaultValue={way.name}
            maxLength={40}
            onBlur={(e) => rename(e.currentTarget.value)}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          />
          {inks.length > 0 && (
            <div className={css.swatches}>
              {inks.map((ink) => (
                <input
                  key={ink.name}
                  type="color"
                  title={ink.name}
                  aria-label={`${ink.name} in ${way.name}`}
                  value={way.colours[ink.name] ?? ink.colour}
                  onChange={(e) => change({ colours: { ...way.colours, [ink.name]: e.target.value } })}
                />
              ))}
            </div>
          )}
          {art &&
            recolour.map((one, k) => (
              <ChangeFields
                key={k}
                number={k + 1}
                change={one}
                put={(next) => change({ recolour: recolour.map((c, j) => (j === k ? next : c)) })}
                remove={() => change({ recolour: recolour.filter((_, j) => j !== k) })}
              />
            ))}
          <div className={css.acts}>
            {art && (
              <>
                <button
                  type="button"
                  className={field.link}
                  aria-pressed={tools.picking}
                  disabled={!hasRoom(way)}
                  onClick={() => tools.setPicking(!tools.picking)}
                >
                  {tools.picking ? "Click the picture …" : "Pick a colour"}
                </button>
                <button
                  type="button"
                  className={field.link}
                  disabled={!hasRoom(way)}
                  onClick={() => change({ recolour: [...recolour, changeFrom(garmentOf(scene.route))] })}
                >
                  Add one by hand
                </button>
              </>
            )}
            <button
              type="button"
              className={field.link}
              onClick={() => {
                putWays(scene, (ways) => ways.filter((w) => w.name !== way.name));
                scene.setWay(null);
              }}
            >
              Take off
            </button>
          </div>
        </div>
      )}
    </div>
  );
}

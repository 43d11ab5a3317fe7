import { type Ink } from "@hardline/core/film/ink";
import { named } from "@hardline/core/stage/films/inks";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { TextInput } from "@mantine/core";
import { Field, Percent, Sliding, Under } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./Films.module.css";
import { DotGain } from "../blackWhite/DotGain";
import { ScreenFields } from "./ScreenFields";
import { type FilmTools } from "./useFilms";
import { type SplitWish } from "./worker";
import { answered } from "../../shared/answered";

interface Props {
  readonly scene: BenchScene;
  readonly tools: FilmTools;
  readonly inks: readonly Ink[];
  readonly settings: FilmsSettings;
  readonly k: number;
  readonly put: (inks: readonly Ink[]) => void;
}

/** All that is set of one ink. */
export function InkFields({ scene, tools, inks, settings, k, put }: Props) {
  const ink = inks[k];
  const { name, role } = ink;
  const change = (more: Partial<Ink>) => put(inks.map((i, j) => (j === k ? { ...i, ...more } : i)));
  const move = (by: number) => {
    const next = [...inks];
    next.splice(k + by, 0, next.splice(k, 1)[0]);
    put(next);
  };
  const split = async (): Promise<void> => {
    const wish: SplitWish = { inks, index: k, garment: settings.garment };
    const asked = scene.engine?.ask<string[]>({ stage: "films", name: "split", wish });
    const two = await answered(asked, "The ink was not split");
    if (!two || two.length < 2) return;
    const others = inks.filter((_, j) => j !== k);
    const [one] = [named(two[0], others)];
    put([...inks.slice(0, k), one, named(two[1], [...others, one]), ...inks.slice(k + 1)]);
    tools.setOpenInk(null);
  };
  const rename = (next: string) => {
    const taken = inks.some((i, j) => j !== k && i.name === next);
    if (!next || next === name || taken) return;
    change({ name: next });
    tools.setOpenInk(next);
  };
  const tonal = settings.separate === "tonal" || settings.separate === "process";
  return (
    <Under.Provider value={`inks.${k}`}>
      <div className={css.fields}>
        <Field label="Name">
          <TextInput
            size="xs"
            aria-label={`Name of ${name}`}
            key={name}
            defaultValue={name}
            maxLength={24}
            onBlur={(e) => rename(e.currentTarget.value.trim())}
          />
        </Field>
        {role === "underbase" ? (
          <Sliding
            label="Choke"
            of="spreadMm"
            unit="mm"
            scale={-1}
            decimals={2}
            value={-ink.spreadMm}
            min={-1}
            max={1}
            step={0.05}
            change={(v) => change({ spreadMm: -v })}
          />
        ) : (
          <Sliding
            label="Spread"
            of="spreadMm"
            unit="mm"
            decimals={2}
            value={ink.spreadMm}
            min={-1}
            max={1}
            step={0.05}
            change={(v) => change({ spreadMm: v })}
          />
        )}
        {role === "ink" && !tonal && inks.some((i) => i.role === "underbase") && (
          <Percent label="White under" of="under" value={ink.under} change={(v) => change({ under: v })} />
        )}
        <Percent
          label="Strength"
          of="strength"
          value={ink.strength}
          change={(v) => change({ strength: v })}
        />
        <Percent label="Opaque" of="opacity" value={ink.opacity} change={(v) => change({ opacity: v })} />
        <ScreenFields {...{ ink, settings, change }} />
        <DotGain gain={ink.gain} change={(gain) => change({ gain })} />
        <div className={css.acts}>
          <button type="button" className={field.link} disabled={k === 0} onClick={() => move(-1)}>
            Earlier
          </button>
          <button
            type="button"
            className={field.link}
            disabled={k === inks.length - 1}
            onClick={() => move(1)}
          >
            Later
          </button>
          <button
            type="button"
            className={field.link}
            aria-pressed={ink.locked}
            onClick={() => change({ locked: !ink.locked })}
          >
            {ink.locked ? "Do not keep" : "Keep"}
          </button>
          {settings.separate === "flat" && role === "ink" && (
            <button type="button" className={field.link} onClick={() => void split()}>
              Split
            </button>
          )}
          {tonal && role === "ink" && (
            <button
              type="button"
              className={field.link}
              aria-pressed={ink.flat}
              onClick={() => change({ flat: !ink.flat })}
            >
              {ink.flat ? "Mix it" : "Flat only"}
            </button>
          )}
          {inks.length > 1 && (
            <button
              type="button"
              className={field.link}
              title={role === "ink" ? "What it printed goes to the ink it is most like" : undefined}
              onClick={() => (put(inks.filter((_, j) => j !== k)), tools.setOpenInk(null))}
            >
              {role === "ink" ? "Merge" : "Take off"}
            </button>
          )}
        </div>
      </div>
    </Under.Provider>
  );
}

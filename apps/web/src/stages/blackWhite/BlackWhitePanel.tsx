import { LEAST_DPI, MOST_DPI } from "@hardline/core/maths/units";
import { type Finish } from "@hardline/core/result/finish";
import { replaceSettings, settingsOf } from "@hardline/core/route/route";
import { METHODS } from "@hardline/core/dots/methods";
import { type BlackWhiteSettings } from "@hardline/core/stage/blackWhite/settings";
import { Switch } from "../../shared/fields/controls";
import { NumberField } from "../../shared/fields/NumberField";
import { useRef } from "react";
import { Choice, Field } from "../../shared/fields/Field";
import { readingsOf, type PanelProps } from "../face";
import { METHOD_PANELS } from "./methods";

type Name = BlackWhiteSettings["method"];

/** The way to black and white, and what the beam does to the material. */
export function BlackWhitePanel({ scene }: PanelProps) {
  const { route, set, keeper, finish } = scene;
  const settings = settingsOf(route, "blackWhite")!;
  const { resistFilm } = settings;
  const left = useRef<Partial<Record<Name, BlackWhiteSettings>>>({});
  const Controls = METHOD_PANELS[settings.method];

  /** Going to another method and back finds its settings as they were left. */
  const choose = (method: Name) => {
    left.current[settings.method] = settings;
    const { material } = settings;
    const kept = left.current[method] ?? {
      method,
      ...(finish && METHODS.find((m) => m.id === method)!.start?.(finish)),
    };
    const next = { ...kept, material, ...(resistFilm ? { resistFilm } : {}) };
    keeper.change(replaceSettings(route, "blackWhite", next));
  };

  return (
    <>
      <Field label="Method" of="method">
        <Choice
          label="Method"
          value={settings.method}
          options={METHODS.map(({ id, title, tip }) => ({ value: id as Name, label: title, tip }))}
          change={choose}
        />
      </Field>
      <Controls
        settings={settings as never}
        change={(change: object) => set("blackWhite", change)}
        readings={readingsOf(scene, "blackWhite")}
        finish={finish}
      />
      <Field label="Polarity" of="material">
        <Choice
          label="Polarity"
          value={settings.material}
          options={[
            { value: "burns-dark", label: "burns dark", tip: "Marks the dark parts: wood, leather, paper" },
            {
              value: "burns-pale",
              label: "burns pale",
              tip: "Marks the light parts: slate, granite, coated metal",
            },
          ]}
          change={(material) => set("blackWhite", { material })}
        />
      </Field>
      <Field label="Resist film">
        <Switch
          aria-label="Resist film"
          size="xs"
          color="dark"
          label="hand over a film too"
          checked={resistFilm !== undefined}
          onChange={(e) =>
            set("blackWhite", {
              resistFilm:
                e.currentTarget.checked && finish ? { printerDotsPerInch: filmFor(finish) } : undefined,
            })
          }
        />
      </Field>
      {resistFilm && finish && (
        <Field label="Film printer">
          <NumberField
            label="Film printer's dots per inch"
            value={resistFilm.printerDotsPerInch}
            min={LEAST_DPI}
            max={MOST_DPI}
            unit="dots/in"
            change={(printerDotsPerInch) => set("blackWhite", { resistFilm: { printerDotsPerInch } })}
          />
        </Field>
      )}
    </>
  );
}

/** What a film printer has, so that each dot becomes a whole number of its own. */
const FILM = 720;
const filmFor = ({ dotsPerInch }: Finish): number =>
  Math.round(Math.max(1, Math.round(FILM / dotsPerInch)) * dotsPerInch * 100) / 100;

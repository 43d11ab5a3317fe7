import { METHODS, replaceSettings, settingsOf, type BlackWhiteSettings } from "@hardline/core";
import { useRef } from "react";
import { Choice, Field } from "../../shared/fields/Field";
import { readingsOf, type PanelProps } from "../face";
import { METHOD_PANELS } from "./methods";

type Name = BlackWhiteSettings["method"];

/** The way to black and white, and what the beam does to the material. */
export function BlackWhitePanel({ scene }: PanelProps) {
  const { route, set, keeper, spread } = scene;
  const settings = settingsOf(route, "blackWhite")!;
  const left = useRef<Partial<Record<Name, BlackWhiteSettings>>>({});
  const Controls = METHOD_PANELS[settings.method];

  /** Going to another method and back finds its settings as they were left. */
  const choose = (method: Name) => {
    left.current[settings.method] = settings;
    const next = { ...(left.current[method] ?? { method }), material: settings.material };
    keeper.change(replaceSettings(route, "blackWhite", next));
  };

  return (
    <>
      <Choice
        label="Method"
        value={settings.method}
        options={METHODS.map(({ id, title, tip }) => ({ value: id as Name, label: title, tip }))}
        change={choose}
      />
      <Controls
        settings={settings as never}
        change={(change: object) => set("blackWhite", change)}
        readings={readingsOf(scene, "blackWhite")}
        spread={(fan) => spread("blackWhite", fan)}
      />
      <Field label="Material">
        <Choice
          label="Material"
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
    </>
  );
}

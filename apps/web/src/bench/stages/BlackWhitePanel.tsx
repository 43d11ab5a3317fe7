import {
  KERNEL_NAMES,
  kernelTitle,
  replaceSettings,
  settingsOf,
  type BlackWhiteSettings,
  type Route,
} from "@hardline/core";
import { Select, Switch } from "@mantine/core";
import { useRef } from "react";
import { type Inspected } from "../../engine/protocol";
import { type SetStage } from "../Docket";
import { type StripSetting } from "../strip/variants";
import { Choice, Field, Sliding } from "./Field";
import css from "./Field.module.css";

interface Props {
  readonly route: Route;
  readonly set: SetStage;
  readonly found: Inspected | null;
  readonly setStrip: (setting: StripSetting) => void;
}

/** The way to black and white, and what the beam does to the material. */
export function BlackWhitePanel({ route, set, found, setStrip }: Props) {
  const settings = settingsOf<BlackWhiteSettings>(route, "blackWhite")!;
  const left = useRef<Partial<Record<BlackWhiteSettings["method"], BlackWhiteSettings>>>({});

  /** Going to another method and back finds its settings as they were left. */
  const choose = (method: BlackWhiteSettings["method"]) => {
    left.current[settings.method] = settings;
    const next = { ...(left.current[method] ?? { method }), material: settings.material };
    const cleared = Object.fromEntries(Object.keys(settings).map((k) => [k, undefined]));
    set("blackWhite", {
      ...cleared,
      ...settingsOf(replaceSettings(route, "blackWhite", next), "blackWhite"),
    });
  };

  return (
    <>
      <Choice
        label="Method"
        value={settings.method}
        options={[
          { value: "line", label: "Line", tip: "One threshold: drawings, lettering, flat art" },
          { value: "scatter", label: "Scatter", tip: "Dots by error diffusion: photographs" },
        ]}
        change={choose}
      />
      {settings.method === "line" ? (
        <>
          <Field label="Threshold" fan={undefined}>
            <Choice
              label="Threshold"
              value={settings.threshold === "auto" ? "auto" : "fixed"}
              options={[
                { value: "fixed", label: "fixed" },
                { value: "auto", label: "auto", tip: "Parts the greys into two groups (Otsu)" },
              ]}
              change={(v) =>
                set("blackWhite", { threshold: v === "auto" ? "auto" : (found?.threshold ?? 128) })
              }
            />
          </Field>
          {settings.threshold === "auto" ? (
            <p className={css.note}>
              {found?.threshold ? `Found: ${found.threshold} of 255` : "Finding it …"}
            </p>
          ) : (
            <Sliding
              label="Darker than"
              value={settings.threshold}
              min={1}
              max={255}
              step={1}
              change={(threshold) => set("blackWhite", { threshold })}
            />
          )}
        </>
      ) : (
        <>
          <Field label="Weights" fan={() => setStrip("method")}>
            <Select
              aria-label="Weights of the error diffusion"
              data={KERNEL_NAMES.map((value) => ({ value, label: kernelTitle(value) }))}
              value={settings.kernel}
              onChange={(kernel) => set("blackWhite", { kernel })}
            />
          </Field>
          <Sliding
            label="Strength"
            unit="%"
            value={Math.round(settings.strength * 100)}
            min={0}
            max={100}
            step={1}
            change={(v) => set("blackWhite", { strength: v / 100 })}
            fan={() => setStrip("strength")}
          />
          <Field label="Serpentine">
            <Switch
              aria-label="Serpentine"
              size="xs"
              color="dark"
              label="every second row runs back"
              checked={settings.serpentine}
              onChange={(e) => set("blackWhite", { serpentine: e.currentTarget.checked })}
            />
          </Field>
        </>
      )}
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

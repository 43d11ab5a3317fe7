import { type PlacedPrint } from "@hardline/core/mockUp/place";
import { type MockUpSettings } from "@hardline/core/stage/mockUp/settings";
import { TextInput } from "@mantine/core";
import { useState } from "react";
import { usePlaces, useThingChange } from "../../api/things";
import { Select } from "../../shared/fields/controls";
import { Field, Sliding } from "../../shared/fields/Field";
import field from "../../shared/fields/Field.module.css";
import { NumberField } from "../../shared/fields/NumberField";
import { tellFault } from "../../shared/tell";
import { useWords } from "../../shared/unit";
import { type BenchScene } from "../face";
import css from "./MockUp.module.css";
import { onThing } from "./onThing";
import { addPrint, changePrint, removePrint } from "./prints";
import { placeWords } from "@hardline/core/mockUp/place";
import { type MockUpTools } from "./useMockUp";

interface Props {
  readonly scene: BenchScene;
  readonly tools: MockUpTools;
  readonly settings: MockUpSettings;
}

const MOST = 12;
const BY_HAND = "by hand";

/** Every print on the thing; of the chosen one, where it sits. */
export function PrintFields({ scene, tools, settings }: Props) {
  const on = onThing(scene);
  const words = useWords();
  if (!on) return null;
  const chosen = Math.min(tools.chosen, on.prints.length - 1);
  const print = on.prints[chosen];
  return (
    <section className={css.prints} aria-label="Prints">
      <p>
        <b>{on.prints.length === 1 ? "Print" : `${on.prints.length} prints`}</b>
        <button
          type="button"
          className={field.link}
          disabled={on.prints.length >= MOST}
          onClick={() => {
            addPrint(scene, {
              at: next(
                settings,
                on.layout.places.places.map((p) => p.name),
              ),
              turn: 0,
              scale: 1,
            });
            tools.setChosen(on.prints.length);
          }}
        >
          Add a print
        </button>
      </p>
      {on.prints.length > 1 && (
        <ul>
          {on.prints.map((one, k) => (
            <li key={k}>
              <button type="button" aria-pressed={k === chosen} onClick={() => tools.setChosen(k)}>
                {k + 1} {one.name ?? one.area.name}
              </button>
              <button
                type="button"
                className={field.link}
                aria-label={`Take off print ${k + 1}`}
                onClick={() => {
                  removePrint(scene, k);
                  tools.setChosen(0);
                }}
              >
                Take off
              </button>
            </li>
          ))}
        </ul>
      )}
      <ChosenPrint
        {...{ scene, print, chosen }}
        places={on.layout.places.places}
        areas={on.layout.places.areas.map((a) => a.name)}
      />
      <p className={field.note}>{words(placeWords(print))}.</p>
    </section>
  );
}

/** A usual place where nothing is yet. */
const next = ({ prints }: MockUpSettings, names: readonly string[]): string =>
  names.find((n, k) => !prints.some((p) => p.at === n || (p.at === "usual" && k === 0))) ?? names[0];

interface ChosenProps {
  readonly scene: BenchScene;
  readonly print: PlacedPrint;
  readonly chosen: number;
  readonly places: readonly {
    readonly name: string;
    readonly area: string;
    readonly at: readonly [number, number];
  }[];
  readonly areas: readonly string[];
}

function ChosenPrint({ scene, print, chosen, places, areas }: ChosenProps) {
  const { data: shops = [] } = usePlaces();
  const { keepPlace, removePlace } = useThingChange();
  const [naming, setNaming] = useState<string | null>(null);
  const own = shops.filter((p) => areas.includes(p.area));
  const at: [number, number] = [Math.round(10 * print.middle[0]) / 10, Math.round(10 * print.box.y) / 10];
  const put = (x: number, y: number) => changePrint(scene, chosen, { at: [x, y], area: print.area.name });
  const isOwn = own.find((p) => p.area === print.area.name && p.at[0] === at[0] && p.at[1] === at[1]);
  const keep = async (name: string): Promise<void> => {
    setNaming(null);
    if (!name.trim()) return;
    await keepPlace
      .mutateAsync({ name: name.trim(), area: print.area.name, at })
      .catch((error) => tellFault("The place was not kept", error));
  };
  return (
    <>
      <Field label="Place">
        <Select
          aria-label="Place of the print"
          allowDeselect={false}
          value={print.name ?? (isOwn ? `own ${isOwn.id}` : BY_HAND)}
          data={[
            { group: "Usual places", items: places.map((p) => ({ value: p.name, label: p.name })) },
            ...(own.length > 0
              ? [
                  {
                    group: "The shop's own",
                    items: own.map((p) => ({ value: `own ${p.id}`, label: p.name })),
                  },
                ]
              : []),
            ...(print.name || isOwn ? [] : [{ value: BY_HAND, label: "placed by hand" }]),
          ]}
          onChange={(v) => {
            const kept = own.find((p) => `own ${p.id}` === v);
            if (kept) changePrint(scene, chosen, { at: [kept.at[0], kept.at[1]], area: kept.area });
            else if (v && v !== BY_HAND) changePrint(scene, chosen, { at: v, area: undefined });
          }}
        />
      </Field>
      <Field label="Sits">
        <NumberField
          label={`Below ${print.area.below}`}
          prefix="↓ "
          unit="mm"
          decimals={1}
          value={at[1]}
          min={-20000}
          max={20000}
          change={(y) => put(at[0], y)}
        />
        <NumberField
          label="Right of the middle line"
          prefix="→ "
          unit="mm"
          decimals={1}
          value={at[0]}
          min={-20000}
          max={20000}
          change={(x) => put(x, at[1])}
        />
      </Field>
      <Sliding
        label="Turned"
        unit="°"
        value={print.turn}
        min={-180}
        max={180}
        step={1}
        change={(turn) => changePrint(scene, chosen, { turn })}
      />
      <Sliding
        label="Size"
        unit="%"
        value={Math.round(100 * print.scale)}
        min={10}
        max={300}
        step={1}
        change={(v) => changePrint(scene, chosen, { scale: v / 100 })}
      />
      {naming === null ? (
        <div className={css.acts}>
          {!print.name && !isOwn && (
            <button type="button" className={field.link} onClick={() => setNaming("")}>
              Keep this place
            </button>
          )}
          {isOwn && (
            <button
              type="button"
              className={field.link}
              onClick={() =>
                void removePlace
                  .mutateAsync(isOwn.id)
                  .catch((error) => tellFault("The place was not taken off", error))
              }
            >
              No longer keep this place
            </button>
          )}
        </div>
      ) : (
        <TextInput
          size="xs"
          aria-label="Name of the place"
          placeholder="Name of the place"
          autoFocus
          maxLength={60}
          value={naming}
          onChange={(e) => setNaming(e.currentTarget.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter") void keep(naming);
            if (e.key === "Escape") setNaming(null);
          }}
          onBlur={() => void keep(naming)}
        />
      )}
    </>
  );
}

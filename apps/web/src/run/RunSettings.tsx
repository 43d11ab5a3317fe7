import { type RunView } from "@hardline/contract";
import { machineKindOf, type Machine } from "@hardline/core/machine/machine";
import { useState } from "react";
import bay from "../shell/bay/Bay.module.css";
import { Choice, Field } from "../shared/fields/Field";
import { NumberField } from "../shared/fields/NumberField";

interface Props {
  readonly run: RunView;
  readonly machine: Machine;
  readonly replan: (wish: object) => Promise<void>;
}

/** How the job is run, as far as its route does not say; another way is planned anew before it can be sent. */
export function RunSettings({ run, machine, replan }: Props) {
  const [wish, setWish] = useState(run.wish);
  const set = (change: Partial<typeof wish>) => setWish((now) => ({ ...now, ...change }));
  const at = wish.at ?? run.plan?.at ?? [0, 0];
  const { takes, rowSpeed } = machineKindOf(machine);
  const same = JSON.stringify(wish) === JSON.stringify(run.wish);
  return (
    <div className={bay.block}>
      <h2>How it is run</h2>
      {takes.rows && (
        <>
          <Field label="Rows">
            <Choice
              label="Rows"
              value={wish.bothWays ? "both" : "one"}
              options={[
                { value: "both", label: "there and back" },
                { value: "one", label: "one way" },
              ]}
              change={(v) => set({ bothWays: v === "both" })}
            />
          </Field>
          <Field label="Power of dots">
            <NumberField
              label="Power of dots"
              unit="%"
              value={wish.power}
              min={0.1}
              max={100}
              change={(power) => set({ power })}
            />
          </Field>
          <Field label="Speed of rows">
            <NumberField
              label="Speed of rows"
              unit="mm/s"
              value={wish.mmPerS ?? rowSpeed!(machine)}
              min={1}
              max={machine.travelMmPerS}
              change={(mmPerS) => set({ mmPerS })}
            />
          </Field>
        </>
      )}
      {takes.place && (
        <Field label="Top left at">
          <NumberField
            label="Across"
            unit="mm"
            value={at[0]}
            min={-100}
            max={100000}
            change={(x) => set({ at: [x, at[1]] })}
          />
          <NumberField
            label="Down"
            unit="mm"
            value={at[1]}
            min={-100}
            max={100000}
            change={(y) => set({ at: [at[0], y] })}
          />
        </Field>
      )}
      <button type="button" className={bay.plain} disabled={same} onClick={() => void replan(wish)}>
        Plan it anew
      </button>
    </div>
  );
}

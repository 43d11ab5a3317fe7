import { type PathUse } from "@hardline/core/path/pathSet";
import { type TracePass, type TraceSettings } from "@hardline/core/stage/trace/settings";
import { TextInput } from "@mantine/core";
import { Select } from "../../shared/fields/controls";
import { NumberField } from "../../shared/fields/NumberField";
import field from "../../shared/fields/Field.module.css";
import { type BenchScene } from "../face";
import css from "./Trace.module.css";

const USES: readonly { readonly value: TracePass["use"]; readonly label: string }[] = [
  { value: "fill", label: "filled" },
  { value: "score", label: "scored" },
  { value: "kiss", label: "kiss cut" },
  { value: "through", label: "cut through" },
];

/** The sets of shapes, each of which can be run as a pass of its own. */
export function PassList({ scene, settings }: { scene: BenchScene; settings: TraceSettings }) {
  const { sets, set } = scene;
  const { passes } = settings;
  if (sets.length === 0) return null;
  const put = (of: string, change: Partial<TracePass> | null) => {
    const others = passes.filter((p) => p.set !== of);
    const now = passes.find((p) => p.set === of);
    if (!change) return set("trace", { passes: others });
    const own = now ?? {
      set: of,
      name: of,
      use: kindOf(sets.find((s) => s.name === of)?.use),
      power: 50,
      speed: 100,
      order: passes.length,
    };
    set("trace", { passes: [...others, { ...own, ...change }].sort((a, b) => a.order - b.order) });
  };
  return (
    <section className={css.passes} aria-label="Passes">
      {sets.map(({ name: of, colour }) => {
        const pass = passes.find((p) => p.set === of);
        return (
          <div key={of} className={css.pass}>
            <p>
              <i style={{ background: `#${colour.toString(16).padStart(6, "0")}` }} />
              <b>{pass?.name ?? of}</b>
              <button
                type="button"
                className={field.link}
                onClick={() => put(of, pass ? null : {})}
                aria-label={pass ? `${of} without its own pass` : `${of} as its own pass`}
              >
                {pass ? "No pass" : "Own pass"}
              </button>
            </p>
            {pass && (
              <div className={css.fields}>
                <TextInput
                  size="xs"
                  aria-label={`Name of the pass of ${of}`}
                  key={pass.name}
                  defaultValue={pass.name}
                  maxLength={40}
                  onBlur={(e) =>
                    e.currentTarget.value.trim() && put(of, { name: e.currentTarget.value.trim() })
                  }
                />
                <Select
                  size="xs"
                  aria-label={`How ${of} is run`}
                  data={USES}
                  value={pass.use}
                  allowDeselect={false}
                  onChange={(use) => put(of, { use: use as TracePass["use"] })}
                />
                <NumberField
                  size="xs"
                  label={`Power of ${of}`}
                  value={pass.power}
                  unit="%"
                  min={0}
                  max={100}
                  decimals={1}
                  change={(v) => put(of, { power: v })}
                />
                <NumberField
                  size="xs"
                  label={`Speed of ${of}`}
                  value={pass.speed}
                  unit="mm/s"
                  min={0.1}
                  max={5000}
                  decimals={1}
                  change={(v) => put(of, { speed: v })}
                />
                {passes.length > 1 && (
                  <NumberField
                    size="xs"
                    label={`Order of ${of}`}
                    value={pass.order + 1}
                    prefix="runs "
                    min={1}
                    max={99}
                    change={(v) => put(of, { order: v - 1 })}
                  />
                )}
              </div>
            )}
          </div>
        );
      })}
    </section>
  );
}

const kindOf = (use: PathUse | undefined): TracePass["use"] =>
  use === undefined || use === "print" ? "fill" : use;

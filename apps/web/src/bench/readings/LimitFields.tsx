import { type Limits } from "@hardline/core";
import { NumberInput } from "@mantine/core";
import css from "./ReadingsColumn.module.css";

/** What the shop holds results against; part of the route, so that it is saved and undone with it. */
export function LimitFields({ limits, change }: { limits: Limits; change: (limits: Limits) => void }) {
  const { areaMm2, dotMm, strayMm2 } = limits;
  return (
    <div className={css.limits}>
      <label>
        Areas from
        <NumberInput
          aria-label="Smallest area that is pointed out"
          value={areaMm2}
          min={0.1}
          max={10000}
          suffix=" mm²"
          decimalScale={1}
          onChange={(v) =>
            typeof v === "number" && v >= 0.1 && v <= 10000 && change({ ...limits, areaMm2: v })
          }
        />
      </label>
      <label>
        Dots under
        <NumberInput
          aria-label="Smallest dot the process marks"
          value={dotMm}
          min={0.005}
          max={5}
          suffix=" mm"
          decimalScale={3}
          onChange={(v) => typeof v === "number" && v >= 0.005 && v <= 5 && change({ ...limits, dotMm: v })}
        />
      </label>
      <label>
        Stray under
        <NumberInput
          aria-label="Islands smaller than this are stray"
          value={strayMm2}
          min={0}
          max={1000}
          suffix=" mm²"
          decimalScale={2}
          onChange={(v) => typeof v === "number" && v >= 0 && v <= 1000 && change({ ...limits, strayMm2: v })}
        />
      </label>
    </div>
  );
}

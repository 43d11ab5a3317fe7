import { type Limits } from "@hardline/core";
import { NumberInput } from "@mantine/core";
import css from "./ReadingsColumn.module.css";

/** What the shop holds results against; part of the route, so that it is saved and undone with it. */
export function LimitFields({ limits, change }: { limits: Limits; change: (limits: Limits) => void }) {
  const { areaMm2, dotMm } = limits;
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
          onChange={(v) => typeof v === "number" && v >= 0.1 && v <= 10000 && change({ areaMm2: v, dotMm })}
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
          onChange={(v) => typeof v === "number" && v >= 0.005 && v <= 5 && change({ areaMm2, dotMm: v })}
        />
      </label>
    </div>
  );
}

import { type Limits } from "@hardline/core";
import { NumberInput } from "@mantine/core";
import css from "./ReadingsColumn.module.css";

interface Limit {
  readonly name: Exclude<keyof Limits, "machineDotsPerInch">;
  readonly words: string;
  readonly says: string;
  readonly least: number;
  readonly most: number;
  readonly unit: string;
  readonly decimals: number;
}

const LIMITS: readonly Limit[] = [
  {
    name: "areaMm2",
    words: "Areas from",
    says: "Smallest area that is pointed out",
    least: 0.1,
    most: 10000,
    unit: "mm²",
    decimals: 1,
  },
  {
    name: "dotMm",
    words: "Dots under",
    says: "Smallest dot the process marks",
    least: 0.005,
    most: 5,
    unit: "mm",
    decimals: 3,
  },
  {
    name: "strayMm2",
    words: "Stray under",
    says: "Islands smaller than this are stray",
    least: 0,
    most: 1000,
    unit: "mm²",
    decimals: 2,
  },
  {
    name: "gapMm",
    words: "Gaps under",
    says: "Smallest gap that stays open",
    least: 0.005,
    most: 5,
    unit: "mm",
    decimals: 3,
  },
  {
    name: "strokeMm",
    words: "Strokes under",
    says: "Thinnest stroke that holds",
    least: 0.005,
    most: 5,
    unit: "mm",
    decimals: 3,
  },
];

/** What the shop holds results against; part of the route, so that it is saved and undone with it. */
export function LimitFields({ limits, change }: { limits: Limits; change: (limits: Limits) => void }) {
  const { machineDotsPerInch } = limits;
  return (
    <div className={css.limits}>
      {LIMITS.map(({ name, words, says, least, most, unit, decimals }) => (
        <label key={name}>
          {words}
          <NumberInput
            aria-label={says}
            value={limits[name]}
            min={least}
            max={most}
            suffix={` ${unit}`}
            decimalScale={decimals}
            onChange={(v) =>
              typeof v === "number" && v >= least && v <= most && change({ ...limits, [name]: v })
            }
          />
        </label>
      ))}
      <label>
        Machine at
        <NumberInput
          aria-label="Dots per inch that the machine runs at"
          placeholder="any"
          value={machineDotsPerInch ?? ""}
          min={10}
          max={4800}
          suffix=" /in"
          decimalScale={1}
          onChange={(v) => {
            if (v === "") change({ ...limits, machineDotsPerInch: null });
            else if (typeof v === "number" && v >= 10 && v <= 4800)
              change({ ...limits, machineDotsPerInch: v });
          }}
        />
      </label>
    </div>
  );
}

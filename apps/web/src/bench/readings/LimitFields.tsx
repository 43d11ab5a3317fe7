import { stageById, type Limits, type StageId } from "@hardline/core";
import { NumberInput } from "@mantine/core";
import css from "./ReadingsColumn.module.css";

interface Limit {
  readonly name: Exclude<keyof Limits, "machineDotsPerInch" | "sheetMm" | "filmMm">;
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
  {
    name: "neckMm",
    words: "Necks under",
    says: "Thinnest neck the material bears",
    least: 0,
    most: 50,
    unit: "mm",
    decimals: 2,
  },
  {
    name: "cornerMm",
    words: "Bends under",
    says: "Tightest bend that blade or beam follows",
    least: 0,
    most: 20,
    unit: "mm",
    decimals: 2,
  },
  {
    name: "holeMm2",
    words: "Holes under",
    says: "Smallest hole that is cut cleanly",
    least: 0,
    most: 10000,
    unit: "mm²",
    decimals: 1,
  },
  {
    name: "registerMm",
    words: "Plates off by",
    says: "How far plates may come to lie off each other on the press",
    least: 0,
    most: 5,
    unit: "mm",
    decimals: 2,
  },
];

/** Limits that may be unknown, and what stands in the field then. */
const OPEN = [
  {
    name: "machineDotsPerInch",
    words: "Machine at",
    says: "Dots per inch that the machine runs at",
    least: 10,
    most: 4800,
    unit: "/in",
  },
  {
    name: "sheetMm",
    words: "Cut up to",
    says: "Longest cut that the machine takes",
    least: 10,
    most: 100000,
    unit: "mm",
  },
  {
    name: "filmMm",
    words: "Film up to",
    says: "Widest film that the printer takes",
    least: 20,
    most: 100000,
    unit: "mm",
  },
] as const;

interface Props {
  readonly limits: Limits;
  /** The stages that the route has. */
  readonly stages: readonly StageId[];
  readonly change: (limits: Limits) => void;
}

/** What the shop holds results against, as far as the route's stages look; part of the route, saved and undone with it. */
export function LimitFields({ limits, stages, change }: Props) {
  const used = new Set(stages.flatMap((stage) => stageById(stage).limits ?? []));
  return (
    <div className={css.limits}>
      {LIMITS.filter(({ name }) => used.has(name)).map(
        ({ name, words, says, least, most, unit, decimals }) => (
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
        ),
      )}
      {OPEN.filter(({ name }) => used.has(name)).map(({ name, words, says, least, most, unit }) => (
        <label key={name}>
          {words}
          <NumberInput
            aria-label={says}
            placeholder="any"
            value={limits[name] ?? ""}
            min={least}
            max={most}
            suffix={` ${unit}`}
            decimalScale={1}
            onChange={(v) => {
              if (v === "") change({ ...limits, [name]: null });
              else if (typeof v === "number" && v >= least && v <= most) change({ ...limits, [name]: v });
            }}
          />
        </label>
      ))}
    </div>
  );
}

import {
  ANSWERS,
  GRAINS,
  PATTERNS,
  type Answer,
  type Grain,
  type Material,
  type Pattern,
} from "@hardline/core/material/material";
import { MATERIAL_NUMBERS } from "@hardline/core/material/numbers";
import { readReadings } from "@hardline/core/wedge/readings";
import { IsIn, IsInt, IsNumber, IsString, Matches, Max, MaxLength, Min, MinLength } from "class-validator";
import { IsRead } from "./isRead";

/** A number of a material, in the range that core has for it. */
function IsMaterialNumber(target: object, name: string): void {
  const { least, most } = MATERIAL_NUMBERS.find((number) => number.name === name)!;
  for (const rule of [IsNumber({ allowNaN: false, allowInfinity: false }), Min(least), Max(most)])
    rule(target, name);
}

/** What a shop writes down of a material. */
export class MaterialBody implements Omit<Material, "key"> {
  @IsString()
  @MinLength(1)
  @MaxLength(60)
  name!: string;

  @IsIn(ANSWERS)
  answer!: Answer;

  @IsMaterialNumber
  dotsPerInch!: number;

  @IsMaterialNumber
  dotMm!: number;

  @IsMaterialNumber
  gapMm!: number;

  @IsMaterialNumber
  strokeMm!: number;

  @IsIn(PATTERNS)
  pattern!: Pattern;

  @IsMaterialNumber
  linesPerInch!: number;

  @Matches(/^#[0-9a-f]{6}$/)
  bareColour!: string;

  @Matches(/^#[0-9a-f]{6}$/)
  markColour!: string;

  @IsIn(GRAINS)
  grain!: Grain;

  @IsMaterialNumber
  grainStrength!: number;

  @IsMaterialNumber
  spreadMm!: number;
}

/** A change names the version it was made on, so that two people never overwrite each other without knowing. */
export class SaveMaterial extends MaterialBody {
  @IsInt()
  @Min(1)
  @Max(2147483647)
  version!: number;
}

/** How a material answers: a curve through the readings of one wedge. */
export interface CurveBody {
  /** Share made and share seen, 0..1. */
  readonly points: readonly (readonly [number, number])[];
  readonly readings: readonly (readonly [number, number])[];
  readonly errorPercent: number;
  readonly mostPercent: number;
  /** Where the readings come from. */
  readonly from: "photograph" | "typed";
  /** Smallest dot, line and gap that held, in mm, where they were read. */
  readonly held: {
    readonly dotMm: number | null;
    readonly strokeMm: number | null;
    readonly gapMm: number | null;
  } | null;
}

export interface CurveView extends CurveBody {
  readonly version: number;
  readonly createdAt: string;
}

/** Readings that somebody typed: percent made and percent seen. */
export class TypedWedge {
  @IsRead(readReadings)
  readings!: [number, number][];
}

export interface MaterialView extends Material {
  /** The newest of its curves; null while no wedge was measured. */
  readonly curve: CurveView | null;

  readonly version: number;
  /** Routes of tickets on the board that are for it. */
  readonly inUse: number;
}

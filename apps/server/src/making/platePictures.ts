import { type PlateReading, type Readings } from "@hardline/core/inspect/check";
import { type Rgba } from "@hardline/core/raster/types";
import { type Result } from "@hardline/core/result/result";
import { smallPlate } from "@hardline/core/result/view";
import { stageById, type StageId } from "@hardline/core/stage/stages";

/** A plate on the job sheet: what was measured of it, and what it looks like. */
export interface SheetPlate extends PlateReading {
  readonly picture: Rgba;
}

/** Pixels of a plate's picture. */
const BOX = { width: 480, height: 480 };

/** Pictures of plates while they are at hand, to be laid beside what was measured of them. */
export class PlatePictures {
  private readonly pictures = new Map<string, Rgba>();

  add(result: Result): void {
    if (result.kind !== "plates" || !result.print) return;
    for (const { name } of result.plates) this.pictures.set(name, smallPlate(result, name, BOX));
  }

  /** Those that a stage measured as plates, in print order. */
  with(measured: readonly { readonly stage: StageId; readonly readings: Readings }[]): SheetPlate[] {
    return measured.flatMap(({ stage, readings }) =>
      Object.entries(stageById(stage).readings ?? {})
        .filter(([name, { display }]) => display === "plates" && name in readings)
        .flatMap(([name]) => readings[name] as readonly PlateReading[])
        .flatMap((plate) => {
          const picture = this.pictures.get(plate.name);
          return picture ? [{ ...plate, picture }] : [];
        }),
    );
  }
}

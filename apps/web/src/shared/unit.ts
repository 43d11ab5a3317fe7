import { inUnit, type Unit } from "@hardline/core/maths/lengthWords";
import { MM_PER_INCH } from "@hardline/core/maths/units";
import { useCallback } from "react";
import { create } from "zustand";
import { persist } from "zustand/middleware";

export { type Unit };

interface UnitState {
  readonly unit: Unit;
  readonly setUnit: (unit: Unit) => void;
}

/** The unit lengths are shown and typed in. Everything is kept in millimetres. */
export const useUnit = create<UnitState>()(
  persist((set) => ({ unit: "mm", setUnit: (unit) => set({ unit }) }), { name: "hardline.unit" }),
);

/** Words with their lengths in the unit that is set. */
export function useWords(): (text: string) => string {
  const { unit } = useUnit();
  return useCallback((text) => inUnit(text, unit), [unit]);
}

export const toUnit = (mm: number, unit: Unit): number => (unit === "mm" ? mm : mm / MM_PER_INCH);
export const decimals = (unit: Unit): number => (unit === "mm" ? 2 : 3);

/** Two sides in words, to a tenth of a millimetre or a hundredth of an inch: "90 × 60 mm". */
export function sizeText(widthMm: number, heightMm: number, unit: Unit): string {
  const side = (mm: number) => Number(toUnit(mm, unit).toFixed(unit === "mm" ? 1 : 2));
  return `${side(widthMm)} × ${side(heightMm)} ${unit}`;
}

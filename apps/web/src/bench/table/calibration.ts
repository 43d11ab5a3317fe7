import { MM_PER_INCH } from "@hardline/core/maths/units";
import { create } from "zustand";
import { persist } from "zustand/middleware";

interface Calibration {
  /** Screen pixels a millimetre, as measured with a bank card on this screen. */
  readonly pixelsPerMm: number;
  readonly measured: boolean;
  readonly measure: (pixelsPerMm: number) => void;
}

/** Every screen is measured once; until then the nominal 96 pixels an inch stand in. */
export const useCalibration = create<Calibration>()(
  persist(
    (set) => ({
      pixelsPerMm: 96 / MM_PER_INCH,
      measured: false,
      measure: (pixelsPerMm) => set({ pixelsPerMm, measured: true }),
    }),
    { name: "hardline.screen" },
  ),
);

/** ISO/IEC 7810 ID-1: what bank cards measure. */
export const CARD_MM = { width: 85.6, height: 53.98 };

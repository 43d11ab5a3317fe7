import { figure } from "../../../inspect/check";
import { movesOfHpgl } from "../../hpgl";
import { defineMachineKind } from "../kind";
import { checkPlot } from "./check";
import { planKnife } from "./plan";
import { knifeCutter as profile, type KnifeCutter } from "./profile";
import { resumedPlot } from "./resume";

export const knifeCutter = defineMachineKind<KnifeCutter>({
  kind: "knife-cutter",
  profile,
  words: "Drag knife with a registration camera, takes HP-GL",
  numbers: [
    { of: "cutMmPerS", label: "Cutting speed", unit: "mm/s" },
    { of: "bladeOffsetMm", label: "Blade offset", unit: "mm" },
    { of: "overcutMm", label: "Overcut", unit: "mm" },
    { of: "liftMs", label: "Knife lift time", unit: "ms" },
    { of: "marks.sizeMm", label: "Register mark, size", unit: "mm" },
    { of: "marks.insetMm", label: "Register mark, from the edge", unit: "mm" },
    { of: "marks.clearMm", label: "Clear round a mark", unit: "mm" },
  ],
  card: ({ bladeOffsetMm }) => ["Blade offset", `${figure(bladeOffsetMm, 2)} mm`],
  usual: {
    ...{ kind: "knife-cutter", key: "knife-cutter", name: "Drag-knife cutter, 610 wide" },
    bed: { widthMm: 610, heightMm: 1200 },
    margins: { leftMm: 5, topMm: 10, rightMm: 5, bottomMm: 10 },
    ...{ travelMmPerS: 600, accelMmPerS2: 8000, cornerMm: 0.02 },
    ...{ cutMmPerS: 200, bladeOffsetMm: 0.25, overcutMm: 0.5, liftMs: 40 },
  },
  program: { mediaType: "application/vnd.hp-hpgl", extension: "plt", sent: "lines" },
  takes: { rows: false, place: true },
  marks: ({ marks }) => marks,
  plan: planKnife,
  moves: movesOfHpgl,
  check: checkPlot,
  resume: resumedPlot,
});

import { figure } from "../../../inspect/check";
import { GcodeReader, movesOfGcode } from "../../gcode";
import { defineMachineKind } from "../kind";
import { checkGcode, checkMarks } from "./check";
import { planLaser } from "./plan";
import { bedLaser as profile, type BedLaser } from "./profile";
import { resumedRows } from "./resume";

export const bedLaser = defineMachineKind<BedLaser>({
  kind: "bed-laser",
  profile,
  words: "Bed laser, takes G-code",
  numbers: [
    { of: "burnMmPerS", label: "Engraving speed", unit: "mm/s" },
    { of: "scoreMmPerS", label: "Scoring speed", unit: "mm/s" },
    { of: "cutMmPerS", label: "Cutting speed", unit: "mm/s" },
    { of: "responseMs", label: "Response delay", unit: "ms" },
  ],
  card: ({ dotsPerInch }) => ["Dots/in", dotsPerInch.map((d) => figure(d)).join(" ")],
  usual: {
    ...{ kind: "bed-laser", key: "bed-laser", name: "Bed laser, 600 x 400" },
    bed: { widthMm: 600, heightMm: 400 },
    margins: { leftMm: 2, topMm: 2, rightMm: 2, bottomMm: 2 },
    ...{ travelMmPerS: 500, accelMmPerS2: 6000, cornerMm: 0.02 },
    dotsPerInch: [127, 254, 300, 500, 508, 1016],
    ...{ burnMmPerS: 300, scoreMmPerS: 80, cutMmPerS: 15, responseMs: 0.2 },
  },
  program: { mediaType: "text/x-gcode", extension: "gcode", sent: "lines" },
  takes: { rows: true, place: true },
  rowSpeed: ({ burnMmPerS }) => burnMmPerS,
  plan: planLaser,
  moves: (bytes, machine) => movesOfGcode(bytes, new GcodeReader(machine)),
  check: checkGcode,
  checkMarks,
  resume: resumedRows,
});

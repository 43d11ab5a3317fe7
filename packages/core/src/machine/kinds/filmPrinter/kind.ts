import { workSlice } from "../../../maths/work";
import { readBitsTiff } from "../../../format/readTiff";
import { figure } from "../../../inspect/check";
import { defineMachineKind } from "../kind";
import { planPrinter, printerMoves } from "./plan";
import { filmPrinter as profile, type FilmPrinter } from "./profile";

export const filmPrinter = defineMachineKind<FilmPrinter>({
  kind: "film-printer",
  profile,
  words: "Film printer, takes 1-bit TIFF",
  numbers: [
    { of: "printMmPerS", label: "Printing speed", unit: "mm/s" },
    { of: "swathDots", label: "Rows a swath", unit: "" },
  ],
  card: ({ dotsPerInch }) => ["Dots/in", dotsPerInch.map((d) => figure(d)).join(" ")],
  usual: {
    ...{ kind: "film-printer", key: "film-printer", name: "Film printer, 330 wide" },
    bed: { widthMm: 330.2, heightMm: 3000 },
    margins: { leftMm: 3, topMm: 3, rightMm: 3, bottomMm: 3 },
    ...{ travelMmPerS: 700, accelMmPerS2: 9000 },
    ...{ dotsPerInch: [720, 1440], swathDots: 180, printMmPerS: 500 },
  },
  program: { mediaType: "image/tiff", extension: "tif", sent: "whole" },
  takes: { rows: false, place: false },
  onePlate: true,
  plan: planPrinter,
  *moves(bytes, machine) {
    const { bits, dotsPerInch } = yield* workSlice(readBitsTiff(bytes), 0, 0.7);
    return yield* workSlice(printerMoves(bits, dotsPerInch, machine), 0.7, 1);
  },
  *film(bytes, { swathDots }) {
    return { ...(yield* readBitsTiff(bytes)), swathDots };
  },
});

import { type DemoTicket } from "./scenario";

/** What is printed, and then cut to its line. */
export const MACHINE_TICKETS: readonly DemoTicket[] = [
  {
    artwork: "sailing-week.svg",
    piece: "Sailing week swing tags",
    customer: "Tern Street Harbour",
    dueIn: 4,
    pieces: 120,
    output: "print and cut",
    material: "white card, 300 g",
    routes: [
      {
        name: "Tag, printed and cut",
        stages: [
          { stage: "size", widthMm: 42, dotsPerInch: 300 },
          {
            stage: "cutLine",
            offsetMm: 1.5,
            smoothMm: 0.8,
            gaps: { fillSmallerThanMm2: 200 },
            parts: { bridgeMm: 3 },
            tab: { holeMm: 3.5, ringMm: 8 },
            print: { under: "colour", colour: "#1b2f5a" },
          },
        ],
      },
    ],
  },
];

/** Names for a batch: one file a person. */
export const CREW: readonly string[] = [
  "Ada Larkhill",
  "Bram Oakes",
  "Carys Penhallow",
  "Dov Marsh",
  "Edda Thorne",
  "Finn Culver",
  "Greta Holm",
  "Hugh Saltmarsh",
  "Ines Quay",
  "Jory Trevanion",
  "Kit Bellamy",
  "Lowen Pascoe",
  "Mab Ferris",
  "Nils Hareide",
  "Oona Skerry",
  "Piran Ropewalk",
];

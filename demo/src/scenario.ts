import { type ArtworkName } from "./artworks";
import { MACHINE_TICKETS } from "./machineTickets";
import { PRINT_TICKETS } from "./printTickets";

export interface DemoTicket {
  readonly artwork: ArtworkName;
  readonly piece: string;
  readonly customer: string;
  /** Days from today that it is due. */
  readonly dueIn: number;
  readonly pieces: number;
  readonly output: "laser" | "cutter" | "screen print" | "transfer" | "resist film" | "print and cut";
  readonly material: string;
  /** #rrggbb */
  readonly materialColour?: string;
  readonly note?: string;
  /** As in a route file, without its frame. */
  readonly routes: readonly {
    readonly name: string;
    readonly stages: readonly object[];
    /** Other cloth and other colours of the same. */
    readonly colourways?: readonly object[];
    /** Key of the shop's material that it is for. */
    readonly material?: string;
  }[];
  readonly fate?: "handed over" | "archived" | "untouched";
}

/** The watercolour at its size, off its paper. */
const PUFFIN_CLEARED = [
  { stage: "size", heightMm: 180, dotsPerInch: 200 },
  {
    stage: "clear",
    ops: [
      { op: "pick", at: [0.03, 0.03], tolerance: 4 },
      { op: "gaps", tolerance: 4, smallestMm2: 0.5 },
    ],
    specksMm2: 0.05,
  },
];

const LIFTED = [
  [0, 0.02],
  [0.5, 0.62],
  [0.9, 0.94],
  [1, 0.97],
];

/** A working week at Tern Street Works, a made-up shop in a made-up harbour town. */
export const TICKETS: readonly DemoTicket[] = [
  {
    artwork: "harbour-light.jpg",
    piece: "Harbour coasters, set of six",
    customer: "Skerry Light Tea Rooms",
    dueIn: 0,
    pieces: 36,
    output: "laser",
    material: "slate",
    note: "Same picture on slate and on pale oak; she chooses on Friday.",
    routes: [
      {
        name: "Slate, burns pale",
        material: "slate",
        stages: [
          { stage: "size", widthMm: 90, dotsPerInch: 254 },
          {
            stage: "tone",
            curve: [
              [0, 0],
              [0.5, 0.57],
              [0.92, 0.95],
              [1, 1],
            ],
            sharpen: { radiusMm: 0.15, amount: 0.6 },
          },
          {
            stage: "blackWhite",
            method: "scatter",
            kernel: "jarvis-judice-ninke",
            strength: 0.92,
            material: "burns-pale",
          },
        ],
      },
      {
        name: "Pale oak, burns dark",
        material: "pale-wood",
        stages: [
          { stage: "size", widthMm: 90, dotsPerInch: 254 },
          { stage: "tone", curve: LIFTED, sharpen: { radiusMm: 0.15, amount: 0.6 } },
          { stage: "blackWhite", method: "scatter", kernel: "stucki" },
        ],
      },
    ],
  },
  {
    artwork: "anchor-tag.svg",
    piece: "Anchor key tags",
    customer: "Low Quay Chandlery",
    dueIn: 0,
    pieces: 120,
    output: "laser",
    material: "acrylic, 3 mm",
    routes: [
      {
        name: "Acrylic",
        stages: [
          { stage: "size", widthMm: 48, dotsPerInch: 500 },
          { stage: "tone" },
          { stage: "blackWhite", method: "line", threshold: "auto" },
        ],
      },
      {
        name: "Tag, cut out",
        stages: [
          { stage: "size", widthMm: 48, dotsPerInch: 500 },
          {
            stage: "cutLine",
            offsetMm: 2.5,
            smoothMm: 0.8,
            gaps: { fillSmallerThanMm2: 60 },
            tab: { holeMm: 3, ringMm: 8 },
          },
        ],
      },
      {
        name: "Tag, engraved and cut",
        stages: [
          { stage: "size", widthMm: 48, dotsPerInch: 254 },
          { stage: "tone" },
          { stage: "blackWhite", method: "line", threshold: "auto" },
          {
            stage: "cutLine",
            offsetMm: 2.5,
            smoothMm: 0.8,
            gaps: { fillSmallerThanMm2: 60 },
            tab: { holeMm: 3, ringMm: 8 },
          },
        ],
      },
    ],
  },
  {
    artwork: "boat-in-ink.jpg",
    piece: "Boat tea towel",
    customer: "Marlpit Growers",
    dueIn: 2,
    pieces: 60,
    output: "screen print",
    material: "linen, one ink",
    note: "Phone picture of his own drawing. Light falls off to the right.",
    routes: [
      {
        name: "One ink, line",
        stages: [
          { stage: "size", widthMm: 240, dotsPerInch: 300 },
          {
            stage: "clear",
            ops: [{ op: "lift", kept: 0.55, gone: 0.8, light: "uneven" }],
            specksMm2: 0.05,
          },
          { stage: "blackWhite", method: "line", threshold: 150 },
        ],
      },
      {
        name: "In colours",
        stages: [
          { stage: "size", widthMm: 240, dotsPerInch: 200 },
          {
            stage: "clear",
            ops: [{ op: "lift", kept: 0.55, gone: 0.8, light: "uneven" }],
            specksMm2: 0.05,
          },
          {
            stage: "colour",
            gapMm: 1,
            areas: [
              { at: [0.22, 0.6], colour: "#c8352e" },
              { at: [0.4, 0.665], colour: "#2f7f86" },
              { at: [0.3, 0.735], colour: "#2f5aa8" },
              { at: [0.515, 0.52], colour: "#f2c84b" },
              { at: [0.54, 0.468], colour: "#8a5a3a" },
              { at: [0.52, 0.535], colour: "#9cc4d8" },
              { at: [0.59, 0.51], colour: "#9cc4d8" },
              { at: [0.625, 0.54], colour: "#9cc4d8" },
              { at: [0.405, 0.155], colour: "#e8883a" },
              { at: [0.4, 0.33], colour: "#e9d3b4", shade: { colour: "#d98a5a", to: [0.49, 0.41] } },
              { at: [0.88, 0.6], colour: "#8f9498" },
            ],
          },
          { stage: "transfer", garment: "#f4efe2", white: { chokeMm: 0.4 } },
        ],
      },
    ],
  },
  {
    artwork: "rowing-badge.jpg",
    piece: "Boat house door badge",
    customer: "Ropewalk Rowing Club",
    dueIn: 2,
    pieces: 2,
    output: "cutter",
    material: "white vinyl",
    routes: [
      {
        name: "Vinyl, one colour",
        stages: [
          { stage: "size", widthMm: 150, dotsPerInch: 254 },
          { stage: "tone" },
          { stage: "blackWhite", method: "line", threshold: "auto" },
          { stage: "trace", threshold: "auto", smallestMm2: 0.4, smallestHoleMm2: 0.4 },
        ],
      },
      {
        name: "Three colours, a pass each",
        stages: [
          { stage: "size", widthMm: 150, dotsPerInch: 200 },
          {
            stage: "trace",
            tones: ["#1f3a5f", "#b8392e", "#f2e6c8"],
            smallestMm2: 1,
            toleranceMm: 0.08,
            passes: [
              { set: "tone-1", name: "navy", use: "fill", power: 45, speed: 120, order: 0 },
              { set: "tone-2", name: "red", use: "fill", power: 45, speed: 120, order: 1 },
              { set: "tone-3", name: "cream", use: "fill", power: 40, speed: 140, order: 2 },
            ],
          },
        ],
      },
    ],
  },
  {
    artwork: "puffin.png",
    piece: "Puffin count tote bags",
    customer: "Skerry Bird Watch",
    dueIn: 5,
    pieces: 40,
    output: "transfer",
    material: "natural cotton",
    materialColour: "#e8dfc8",
    routes: [
      {
        name: "Tote, one ink",
        stages: [
          { stage: "size", heightMm: 200, dotsPerInch: 200 },
          { stage: "tone", curve: LIFTED },
          { stage: "blackWhite", method: "scatter", kernel: "atkinson", serpentine: true },
        ],
      },
    ],
  },
  {
    artwork: "skerry-from-the-web.jpg",
    piece: "Name board picture",
    customer: "J. Larkhill, mooring 14",
    dueIn: 5,
    pieces: 1,
    output: "laser",
    material: "pale oak",
    note: "Saved from a web page. Ask for the camera file.",
    routes: [
      {
        name: "Pale oak",
        stages: [
          { stage: "size", widthMm: 180, dotsPerInch: 254 },
          { stage: "tone" },
          { stage: "blackWhite", kernel: "floyd-steinberg" },
        ],
      },
    ],
  },
  {
    artwork: "pilot-crest.jpg",
    piece: "Pilot station sweatshirts",
    customer: "Skerry Pilots",
    dueIn: 1,
    pieces: 24,
    output: "transfer",
    material: "sweatshirt, bottle green",
    materialColour: "#1d3a2f",
    note: "Saved from their letterhead, white box and all. The pale line round the wheel is theirs and stays.",
    routes: [
      {
        name: "Transfer, full colour",
        stages: [
          { stage: "size", widthMm: 220, dotsPerInch: 150 },
          {
            stage: "clear",
            ops: [
              { op: "pick", at: [0.01, 0.01], tolerance: 7 },
              { op: "gaps", like: 0, tolerance: 7, smallestMm2: 0.5 },
            ],
            specksMm2: 0.1,
          },
        ],
      },
      {
        name: "Stickers, kiss cut",
        stages: [
          { stage: "size", widthMm: 70, dotsPerInch: 300 },
          {
            stage: "clear",
            ops: [
              { op: "pick", at: [0.01, 0.01], tolerance: 7 },
              { op: "gaps", like: 0, tolerance: 7, smallestMm2: 0.5 },
            ],
            specksMm2: 0.1,
          },
          {
            stage: "cutLine",
            offsetMm: 2,
            smoothMm: 1,
            gaps: { fillSmallerThanMm2: 40 },
            kind: "kiss",
            print: { under: "colour", colour: "#ffffff" },
          },
        ],
      },
    ],
  },
  {
    artwork: "buoy.jpg",
    piece: "Buoy prints for the ward room",
    customer: "Low Quay Chandlery",
    dueIn: 3,
    pieces: 3,
    output: "laser",
    material: "pale oak",
    materialColour: "#d9b98a",
    routes: [
      {
        name: "Pale oak, cut out",
        stages: [
          { stage: "size", heightMm: 110, dotsPerInch: 254 },
          {
            stage: "clear",
            specksMm2: 0.05,
            ops: [
              {
                op: "cutOut",
                keep: [
                  {
                    points: [
                      [0.5, 0.15],
                      [0.5, 0.22],
                      [0.4, 0.35],
                      [0.6, 0.4],
                    ],
                    sizeMm: 3,
                  },
                  {
                    points: [
                      [0.3, 0.55],
                      [0.46, 0.54],
                      [0.72, 0.56],
                    ],
                    sizeMm: 3,
                  },
                  {
                    points: [
                      [0.4, 0.7],
                      [0.55, 0.82],
                      [0.68, 0.72],
                    ],
                    sizeMm: 3,
                  },
                ],
                away: [
                  {
                    points: [
                      [0.07, 0.08],
                      [0.06, 0.92],
                      [0.3, 0.95],
                      [0.94, 0.93],
                      [0.93, 0.1],
                    ],
                    sizeMm: 3,
                  },
                  {
                    points: [
                      [0.2, 0.08],
                      [0.4, 0.1],
                      [0.42, 0.2],
                    ],
                    sizeMm: 2,
                  },
                ],
              },
            ],
          },
          { stage: "tone", curve: LIFTED },
          { stage: "blackWhite", kernel: "stucki" },
        ],
      },
    ],
  },
  {
    artwork: "house-number.svg",
    piece: "House sign",
    customer: "4 Cooper's Row",
    dueIn: 7,
    pieces: 1,
    output: "resist film",
    material: "black granite",
    routes: [
      {
        name: "Granite, resist film",
        material: "stone-resist",
        stages: [
          { stage: "size", widthMm: 300, dotsPerInch: 120 },
          { stage: "blackWhite", method: "line", threshold: 128, resistFilm: { printerDotsPerInch: 720 } },
        ],
      },
    ],
    fate: "handed over",
  },
  {
    artwork: "ships-bell.jpg",
    piece: "Bell on a box lid, one off",
    customer: "Marlpit Growers",
    dueIn: 8,
    pieces: 1,
    output: "laser",
    material: "pale oak",
    routes: [],
    fate: "untouched",
  },
  {
    artwork: "rowing-badge.jpg",
    piece: "Regatta medals, last year",
    customer: "Ropewalk Rowing Club",
    dueIn: -120,
    pieces: 80,
    output: "laser",
    material: "anodised, burns pale",
    routes: [
      {
        name: "Anodised",
        material: "anodised-metal",
        stages: [
          { stage: "size", widthMm: 40, dotsPerInch: 508 },
          { stage: "blackWhite", method: "line", threshold: "auto", material: "burns-pale" },
        ],
      },
    ],
    fate: "archived",
  },
  {
    artwork: "puffin-on-paper.jpg",
    piece: "Puffin shirts",
    customer: "Skerry Bird Watch",
    dueIn: 9,
    pieces: 24,
    output: "transfer",
    material: "navy cotton",
    materialColour: "#1c2a44",
    note: "Scan of the watercolour; no paper may show on the navy.",
    routes: [
      {
        name: "Navy shirt",
        stages: [...PUFFIN_CLEARED],
      },
      {
        name: "Transfer on navy, with its white",
        stages: [
          ...PUFFIN_CLEARED,
          { stage: "transfer", garment: "#1a2340", white: { chokeMm: 0.3, strength: 1 } },
        ],
      },
      {
        name: "On a hooded top, three cloths",
        colourways: [
          {
            name: "Rust, green beak",
            garment: "#8a4a2f",
            recolour: [{ from: "#e08a3c", tolerance: 12, softness: 4, to: { hue: 90, saturation: 0.9 } }],
          },
          { name: "Oat", garment: "#dccfb4" },
        ],
        stages: [
          ...PUFFIN_CLEARED,
          { stage: "transfer", garment: "#1a2340", white: { chokeMm: 0.3, strength: 1 } },
          {
            stage: "mockUp",
            thing: "hooded-front",
            prints: [{ at: "full front" }],
            sheet: { things: ["t-shirt-front"], sizes: [] },
          },
        ],
      },
    ],
  },
  {
    artwork: "harbour-light.jpg",
    piece: "Harbour fair posters",
    customer: "Skerry Light Tea Rooms",
    dueIn: 2,
    pieces: 80,
    output: "screen print",
    material: "grey board, one ink",
    note: "One film, navy ink. Finest mesh in the house holds a dot of 4 %.",
    routes: [
      {
        name: "One film, 35 lines",
        material: "film",
        stages: [
          { stage: "size", widthMm: 135, dotsPerInch: 720 },
          { stage: "tone", curve: LIFTED, sharpen: { radiusMm: 0.2, amount: 0.5 } },
          {
            stage: "blackWhite",
            method: "screen",
            linesPerInch: 35,
            angle: 22.5,
            dot: "ellipse",
            holdHighlight: 4,
            holdShadow: 5,
            smallestMark: 2,
            smallestGap: 2,
          },
        ],
      },
    ],
  },
  ...PRINT_TICKETS,
  ...MACHINE_TICKETS,
];

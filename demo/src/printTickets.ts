import { type DemoTicket } from "./scenario";

/** Shirts and bags that are printed through screens: films of several inks. */
export const PRINT_TICKETS: readonly DemoTicket[] = [
  {
    artwork: "sailing-week.svg",
    piece: "Sailing week shirts, navy",
    customer: "Tern Street Harbour",
    dueIn: 2,
    pieces: 60,
    output: "screen print",
    material: "navy cotton",
    materialColour: "#1a2340",
    note: "White under the gold and the red; pale is printed by the white alone.",
    routes: [
      {
        name: "Three inks and a white under them",
        stages: [
          { stage: "size", widthMm: 250, dotsPerInch: 240 },
          {
            stage: "films",
            separate: "flat",
            garment: "#1a2340",
            printerDotsPerInch: 720,
            inks: [
              { name: "white", colour: "#f7f3e6", role: "underbase", spreadMm: -0.25, meshPerCm: 55 },
              { name: "gold", colour: "#f0b63a", meshPerCm: 77 },
              { name: "red", colour: "#d8432b", meshPerCm: 77 },
            ],
            trapMm: 0.25,
          },
        ],
      },
    ],
  },
  {
    artwork: "harbour-light.jpg",
    piece: "Harbour light, black shirts",
    customer: "Skerry Light Tea Rooms",
    dueIn: 5,
    pieces: 24,
    output: "screen print",
    material: "black cotton",
    materialColour: "#101012",
    routes: [
      {
        name: "Six inks on black",
        stages: [
          { stage: "size", widthMm: 280, dotsPerInch: 240 },
          {
            stage: "films",
            separate: "tonal",
            garment: "#101012",
            printerDotsPerInch: 720,
            inks: [
              ["white", "#ffffff", 55, 0.21],
              ["yellow", "#f2c25a", 90, 0.14],
              ["sky", "#7fa8c9", 90, 0.14],
              ["orange", "#d9743a", 90, 0.14],
              ["sea", "#24506e", 90, 0.14],
              ["grey", "#5b5a5c", 90, 0.14],
            ].map(([name, colour, meshPerCm, scatterMm]) => ({
              ...{ name, colour, meshPerCm },
              screen: { scatterMm },
            })),
          },
        ],
      },
    ],
  },
  {
    artwork: "sailing-week.svg",
    piece: "Sailing week, colours to choose",
    customer: "Tern Street Harbour",
    dueIn: 3,
    pieces: 12,
    output: "screen print",
    material: "tote bags, several",
    routes: [
      {
        name: "Four colourways",
        colourways: [
          {
            name: "Sand",
            garment: "#d9c7a0",
            colours: { gold: "#1f5f6b", red: "#b8392e", pale: "#fffaf0" },
          },
          {
            name: "Moss",
            garment: "#3f5138",
            colours: { gold: "#e5c46a", red: "#e8825a", pale: "#f4efe0" },
          },
          {
            name: "Night and ice",
            garment: "#15181d",
            colours: { gold: "#7fc4d9", red: "#3f7fb0", pale: "#e8f3f6" },
          },
          {
            name: "Natural",
            garment: "#efe8d8",
            colours: { gold: "#c98a2b", red: "#8f2f2a", pale: "#2b3d4f" },
          },
        ],
        stages: [
          { stage: "size", widthMm: 200, dotsPerInch: 240 },
          {
            stage: "films",
            separate: "flat",
            garment: "#1f3a5f",
            inks: [
              { name: "gold", colour: "#f0b63a" },
              { name: "red", colour: "#d8432b" },
              { name: "pale", colour: "#f7f3e6" },
            ],
          },
          {
            stage: "mockUp",
            thing: "tote-bag",
            prints: [{ at: "middle", scale: 0.9 }],
            sheet: { things: ["t-shirt-front"], sizes: [] },
          },
        ],
      },
    ],
  },
];

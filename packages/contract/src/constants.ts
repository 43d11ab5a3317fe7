/** What an artwork may be; said to people when it is exceeded. */
export const MOST_ARTWORK_BYTES = 200 * 1024 * 1024;
export const MOST_ARTWORK_PIXELS = 200e6;
export const MOST_ARTWORK_SIDE = 65535;

/** What leaves the shop in the end; decides which machine the ticket goes to. */
export const OUTPUTS = [
  "laser",
  "cutter",
  "screen print",
  "transfer",
  "resist film",
  "print and cut",
] as const;
export type Output = (typeof OUTPUTS)[number];

/** Where a ticket stands, as far as the board is concerned. */
export const TICKET_STATES = ["draft", "to stop", "to look at", "ready", "handed over", "archived"] as const;
export type TicketState = (typeof TICKET_STATES)[number];

/** Orders of the board: by the day it is due, the newest first, by customer, what wants most looking at first. */
export const TICKET_ORDERS = ["due", "number", "customer", "looks"] as const;
export type TicketOrder = (typeof TICKET_ORDERS)[number];
/** Tickets that the board is given at once, and at most. */
export const [TICKETS_AT_ONCE, MOST_TICKETS_AT_ONCE] = [60, 500] as const;

/** Which edge of a page counts: as it is shown; where it is cut; with what is cut off. @see ISO 32000-2, 14.11.2 */
export const PAGE_BOXES = ["crop", "trim", "bleed"] as const;
export type PageBox = (typeof PAGE_BOXES)[number];

/** Sides of a piece that a route takes, in millimetres. */
const [LEAST_MM, MOST_MM] = [1, 5000];

/**
 * Stages of a plain route: as wide as the artwork says it is, or 90 mm on the longer side, at a bench laser's dots;
 * everything else as it comes.
 */
export const plainStages = ({
  width,
  height,
  widthMm,
}: {
  readonly width: number;
  readonly height: number;
  readonly widthMm: number | null;
}): object[] => [
  { stage: "size", ...sizeOf(width, height, widthMm), dotsPerInch: 254 },
  { stage: "tone" },
  { stage: "blackWhite", method: "scatter", kernel: "jarvis-judice-ninke" },
];

function sizeOf(width: number, height: number, widthMm: number | null): object {
  const heightMm = ((widthMm ?? 0) * height) / width;
  const taken =
    widthMm !== null && Math.min(widthMm, heightMm) >= LEAST_MM && Math.max(widthMm, heightMm) <= MOST_MM;
  if (taken) return { widthMm: Math.round(widthMm * 100) / 100 };
  return width >= height ? { widthMm: 90 } : { heightMm: 90 };
}

/** Lists of the shop that may change while somebody looks at them. */
export const LISTS = [
  "tickets",
  "sheets",
  "batches",
  "machines",
  "runs",
  "materials",
  "house-routes",
  "fonts",
  "things",
  "customers",
  "people",
  "journal",
] as const;
export type ListName = (typeof LISTS)[number];

/** Word that something in these lists is not what it was. */
export interface ListsChanged {
  readonly lists: readonly ListName[];
}

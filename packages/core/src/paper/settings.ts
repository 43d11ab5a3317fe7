import { z } from "zod";
import { MOST_BEND } from "./lens";

/** Corners may lie a little beside the picture, where the paper was not photographed whole. */
const place = z.tuple([z.number().min(-0.5).max(1.5), z.number().min(-0.5).max(1.5)]);
const two = z.tuple([place, place]);

type Place = z.output<typeof place>;

/** Shares of a picture by which a corner turns at least: nearly straight ones make no paper. */
const LEAST_TURN = 1e-4;

/** Whether four places go round once, clockwise as they are seen, without a corner that points inwards. */
export const areCorners = (places: readonly Place[]): boolean =>
  places.every(([x, y], k) => {
    const [[u, v], [p, q]] = [places[(k + 1) % 4], places[(k + 2) % 4]];
    return (u - x) * (q - v) - (v - y) * (p - u) > LEAST_TURN;
  });

/** A paper, card, sign or screen on a photograph: what is within its edges becomes the artwork, seen from straight above. */
export const paperSettings = z.strictObject({
  /** As they are on the photograph, in fractions of its sides: upper left, upper right, lower right, lower left. */
  corners: z.tuple([place, place, place, place]).refine(areCorners, {
    error: "four corners, clockwise from the upper left, none of them pointing inwards",
  }),
  /** Width by height of the paper, where that is known; left out, it is told by the corners. */
  proportion: z.number().min(0.05).max(20).optional(),
  lens: z.number().min(-MOST_BEND).max(MOST_BEND).default(0),
  /** Where its upper and lower edge pass, at about a third and two thirds of the way, of paper that is curled. */
  curled: z.strictObject({ top: two, foot: two }).optional(),
  /** The light on it is evened. */
  light: z.boolean().default(false),
});
export type Paper = z.output<typeof paperSettings>;

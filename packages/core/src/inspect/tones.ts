import { figure, type Check } from "./check";

/** How many tones a way of making dots can tell apart at a resolution. */
export interface Tones {
  /** Of one cell by itself. */
  readonly steps: number;
  /** Of many cells together. */
  readonly together: number;
  /** Dots along a cell's side. */
  readonly side: number;
  /** Lines per inch at which one cell would have enough. */
  readonly enoughAt: number;
}

/** Fewer tones than this show as bands. */
export const ENOUGH_TONES = 100;
/** Under this a picture is no more than a poster. */
const LEAST_TONES = 12;

/** Does one cell of the screen have enough dots to tell tones apart? */
export function checkTones({ steps, together, side, enoughAt }: Tones): Check {
  const level = steps >= ENOUGH_TONES ? "fine" : steps >= LEAST_TONES ? "look" : "stop";
  const cell = `A cell of ${figure(side)} × ${figure(side)} dots has ${Math.floor(steps)} of its own`;
  return {
    id: "toneSteps",
    level,
    value: Math.floor(steps),
    unit: "tones",
    text: level === "fine" ? "Tones enough" : level === "look" ? "Few tone steps" : "Too few tone steps",
    detail:
      level === "fine"
        ? `${cell}.`
        : `${cell}, ${together} over many cells. At ${figure(enoughAt, 0)} lines per inch it would have ${ENOUGH_TONES}.`,
    places: [],
  };
}

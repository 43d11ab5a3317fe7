import { BLUE_NOISE_ORDER, BLUE_NOISE_SIDE } from "./blueNoiseTile";
import { thresholdsOf, type Mask } from "./mask";

const DIGITS = 4;

/** Marks without a pattern, as even as they can be at every tone; the order was worked out when the program was built. */
export const BLUE_NOISE: Mask = {
  width: BLUE_NOISE_SIDE,
  height: BLUE_NOISE_SIDE,
  shift: 0,
  thresholds: thresholdsOf(
    Array.from({ length: BLUE_NOISE_SIDE ** 2 }, (_, k) => [
      parseInt(BLUE_NOISE_ORDER.slice(DIGITS * k, DIGITS * (k + 1)), 16),
    ]),
    BLUE_NOISE_SIDE ** 2,
  ),
};

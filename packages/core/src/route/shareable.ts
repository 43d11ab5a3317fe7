import { amountCorners } from "../film/amountCorners";
import { resampledRows } from "../resample/inParts";
import { type Shareable } from "../hands/shareOut";

/** Every computation that can be shared out, for threads that help. */
export const SHAREABLE: readonly Shareable<never>[] = [resampledRows, amountCorners];

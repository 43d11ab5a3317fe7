import { bedLaser } from "./kinds/bedLaser/kind";
import { filmPrinter } from "./kinds/filmPrinter/kind";
import { knifeCutter } from "./kinds/knifeCutter/kind";

/** Every kind of machine there is. A new kind is one folder in `kinds/` and one entry here. */
export const MACHINE_KINDS = [bedLaser, knifeCutter, filmPrinter] as const;

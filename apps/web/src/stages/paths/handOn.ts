import { type SetText } from "@hardline/core/edit/operation";
import { type Box } from "../../table/geometry";
import { type OnTable, type TablePath } from "./onTable";
import { type PathTools } from "./usePathTools";

/** What every hand on paths works with. */
export interface HandOn {
  readonly tools: PathTools;
  readonly to: OnTable;
  readonly paths: readonly TablePath[];
  readonly box: Box;
  /** Words that lie on the piece. */
  readonly texts: readonly SetText[];
  readonly piece: { readonly widthMm: number; readonly heightMm: number };
}

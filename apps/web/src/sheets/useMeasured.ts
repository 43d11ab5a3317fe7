import { type SheetReach } from "@hardline/core/sheet/sheetFile";
import { type Remote } from "comlink";
import { useEffect, useState } from "react";
import { tellFault } from "../shared/tell";
import { type Measured, type Nester } from "./nestWorker";
import { type SheetAtWork } from "./SheetKeeper";
import { type KnownPiece } from "./usePieces";

/** What is found of a sheet, measured beside the page and only while it rests; null until then. */
export function useMeasured(
  nester: Remote<Nester> | null,
  laid: readonly KnownPiece[] | null,
  { body, placings }: Pick<SheetAtWork, "body" | "placings">,
  about: { readonly reach: SheetReach | undefined; readonly readsMarks: boolean },
): Measured | null {
  const [measured, setMeasured] = useState<Measured | null>(null);
  const { reach, readsMarks } = about;
  useEffect(() => {
    if (!laid || !nester) return;
    let live = true;
    const counts = body.pieces.map((p) => p.count);
    nester
      .measure(laid, counts, body, placings, { reach, readsMarks, printed: laid.some((p) => p.printed) })
      .then(
        (found) => live && setMeasured(found),
        (error) => live && tellFault("The sheet was not measured", error),
      );
    return () => {
      live = false;
    };
  }, [nester, laid, body, placings, reach, readsMarks]);
  return laid ? measured : null;
}

import { type PieceView } from "@hardline/contract";
import { useEffect, useState } from "react";
import { pieceOf } from "../api/sheets";
import { tellFault } from "../shared/tell";

/** A piece as it was made, and of which revision. */
export interface KnownPiece extends PieceView {
  readonly revision: number;
}

/** The pieces of routes, each made on the server; those that are not made yet are missing. */
export function usePieces(routeIds: readonly string[], bleedMm: number): ReadonlyMap<string, KnownPiece> {
  const [pieces, setPieces] = useState<ReadonlyMap<string, KnownPiece>>(new Map());
  const wanted = routeIds.join(" ");
  useEffect(() => {
    let live = true;
    for (const routeId of wanted.split(" ").filter(Boolean))
      pieceOf(routeId, bleedMm).then(
        ({ outcome, revision, files }) => {
          if (!live) return;
          const piece = { ...(outcome as PieceView), pictureUrl: files[0].url, revision };
          setPieces((now) => new Map(now).set(routeId, piece));
        },
        (e) => live && tellFault("A piece could not be made", e),
      );
    return () => {
      live = false;
    };
  }, [wanted, bleedMm]);
  return pieces;
}

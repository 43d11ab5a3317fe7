import { type SheetView } from "@hardline/contract";
import { canonical } from "@hardline/core/settings/canonical";
import { TwoVersions } from "../keeper/TwoVersions";
import { type SheetAtWork, type SheetKeeper } from "./SheetKeeper";

/** Two operators changed one sheet. */
export function SheetConflict({
  keeper,
  theirs,
  mine,
}: {
  keeper: SheetKeeper;
  theirs: SheetView;
  mine: SheetAtWork;
}) {
  const copies = ({ body }: SheetAtWork) => String(body.pieces.reduce((sum, p) => sum + p.count, 0));
  const stock = ({ body: { stock } }: SheetAtWork) => `${stock.widthMm} × ${stock.heightMm} mm`;
  const placed = ({ placings }: SheetAtWork) => `${placings.length} placed`;
  const facts = [
    ["Name", (of: SheetAtWork) => of.name],
    ["Copies wanted", copies],
    ["Stock", stock],
    ["Copies", placed],
  ] as const;
  const rows = facts
    .map(([what, of]) => [what, of(mine), of(theirs)] as const)
    .filter(([, here, there]) => here !== there);
  const settings = canonical(mine.body) === canonical(theirs.body);
  const rest = ["Where copies lie", "as here", "otherwise"] as const;
  return (
    <TwoVersions
      what="This sheet"
      note="Whichever you choose goes on; the other is let go."
      there="There"
      rows={rows.length > 0 ? rows : [settings ? rest : (["Settings", "as here", "otherwise"] as const)]}
      keeper={keeper}
    />
  );
}

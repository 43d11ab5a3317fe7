import { type MaterialView } from "@hardline/contract";
import { useMemo } from "react";
import { type OnTable } from "../stages/face";
import { useRouteView } from "../api/tickets";
import { BACKINGS, backingName } from "./table/backings";
import { surfaceOf, type BesideRoute } from "./table/surface";
import { type Table } from "./table/useTable";

/** The ticket's other route that lies beside the one on the bench; null while none does. */
export function useBeside(
  { besideId, onMaterial }: Table,
  materials: readonly MaterialView[] | undefined,
): BesideRoute | null {
  const { data: view } = useRouteView(besideId ?? undefined);
  return useMemo(() => {
    if (!besideId || !view) return null;
    const { route } = view;
    const { colour } = BACKINGS.find((b) => b.name === backingName(route))!;
    return { route, material: onMaterial ? surfaceOf(route, materials) : null, backing: colour };
  }, [besideId, onMaterial, view, materials]);
}

/** Another route that a row of the docket lays on the table. */
export const besideOf = ({ other, names, beside }: OnTable, backing: number): BesideRoute => ({
  route: { ...other, name: names[0] },
  ...{ material: null, backing },
  ...(beside ? {} : { under: names }),
});

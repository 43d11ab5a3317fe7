import { type Route } from "@hardline/core/route/route";
import { useMemo, useState } from "react";
import { useOldRoute } from "../../api/history";
import { type OnTable, type ToolScene } from "../face";

/** Which two revisions are looked at. */
export interface Looking {
  /** Left of the wipe's edge; null: nothing is compared. */
  readonly left: number | null;
  readonly setLeft: (revision: number | null) => void;
  /** Right of it; null: the route as it stands. */
  readonly right: number | null;
  readonly setRight: (revision: number | null) => void;
  readonly beside: boolean;
  readonly setBeside: (is: boolean) => void;
  readonly laid: OnTable | null;
}

export function useLooking({ saved }: ToolScene): Looking {
  const [left, setLeft] = useState<number | null>(null);
  const [right, setRight] = useState<number | null>(null);
  const [beside, setBeside] = useState(false);
  const { data: one } = useOldRoute(saved.id, left);
  const { data: other } = useOldRoute(saved.id, right);
  const laid = useMemo(() => {
    if (left === null || !one || (right !== null && !other)) return null;
    const route: Route | null = other?.route ?? null;
    const names = [`r${left}`, right === null ? "as it stands" : `r${right}`] as const;
    return { route, other: one.route, names, beside };
  }, [left, right, one, other, beside]);
  return useMemo(
    () => ({ left, setLeft, right, setRight, beside, setBeside, laid }),
    [left, right, beside, laid],
  );
}

export const onTable = ({ laid }: Looking): OnTable | null => laid;

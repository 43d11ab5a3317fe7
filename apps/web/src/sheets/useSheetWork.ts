import { type SheetView } from "@hardline/contract";
import { machineKindOf, type Machine } from "@hardline/core/machine/machine";
import { type Arrangement, type Placing } from "@hardline/core/sheet/arrangement";
import { type SheetBody } from "@hardline/core/sheet/sheetFile";
import { useQueryClient } from "@tanstack/react-query";
import { proxy } from "comlink";
import { useEffect, useMemo, useState } from "react";
import { ask } from "../api/client";
import { useKept } from "../keeper/useKept";
import { tellFault } from "../shared/tell";
import { SheetKeeper, type SheetAtWork } from "./SheetKeeper";
import { useMeasured } from "./useMeasured";
import { useNester } from "./useNester";
import { usePieces } from "./usePieces";

/** Settings with the copies that lie where a hand put them. */
const withKept = (body: SheetBody, placings: readonly Placing[]): SheetBody => ({
  ...body,
  kept: placings.filter((p) => p.kept).map(({ kept: _, ...p }) => p),
});

/** A sheet at work: its settings and where its copies lie, saved as they change. */
export function useSheetWork(sheet: SheetView, machine: Machine | undefined) {
  const queries = useQueryClient();
  const nester = useNester();
  const [arranging, setArranging] = useState<number | null>(null);
  /** Where copies lie while they are arranged or dragged: not saved before that is done. */
  const [moving, setMoving] = useState<readonly Placing[] | null>(null);
  const at = `/api/sheets/${sheet.id}`;
  const { keeper, value, state, theirs, reason } = useKept<SheetAtWork, SheetView, SheetKeeper>(
    () =>
      new SheetKeeper(
        sheet,
        {
          get: () => ask<SheetView>(at),
          put: async (json) => {
            const view = await ask<SheetView>(at, { method: "PUT", json });
            queries.setQueryData(["sheet", sheet.id], view);
            return view;
          },
        },
        localStorage,
      ),
  );
  const { body, name } = value;
  const placings = moving ?? value.placings;
  const known = usePieces(
    body.pieces.map((p) => p.routeId),
    body.bleedMm,
  );

  useEffect(() => keeper.laidWith(known), [keeper, known]);

  const ordered = useMemo(() => body.pieces.map(({ routeId }) => known.get(routeId)), [body.pieces, known]);
  const laid = useMemo(() => {
    const all = ordered.flatMap((p) => (p ? [p] : []));
    return all.length > 0 && all.length === ordered.length ? all : null;
  }, [ordered]);
  const reach = machine?.margins;
  const readsMarks = Boolean(machine && machineKindOf(machine).marks);
  const rests = arranging === null && moving === null;
  const measured = useMeasured(nester, rests ? laid : null, value, { reach, readsMarks });

  const put = (next: Partial<SheetAtWork>): void => {
    setMoving(null);
    keeper.change({ ...keeper.get().value, ...next });
  };

  /** Arranges; better arrangements are shown as they come. */
  async function arrange(of: SheetBody = body): Promise<void> {
    if (!laid || !nester) return;
    setArranging(0);
    const told = proxy((share: number, better: Arrangement | null) => {
      if (better) setMoving(better.placings);
      if (share >= 0) setArranging(share);
    });
    try {
      const counts = of.pieces.map((p) => p.count);
      const found = await nester.arrange(laid, counts, of, reach, told);
      put({ body: of, placings: found.placings });
    } catch (error) {
      setMoving(null);
      tellFault("It was not arranged", error);
    }
    setArranging(null);
  }

  const stop = () => void nester?.stop().catch((e: unknown) => tellFault("Arranging was not stopped", e));

  /** One copy laid by hand: the others give way, and it stays there from now on. */
  async function lay(index: number, to: Placing, done: boolean): Promise<void> {
    if (!laid || !nester) return;
    const kept = { ...to, kept: true as const };
    try {
      const moved = await nester.drag(laid, body, reach, placings, { at: index, to: kept });
      if (!done) return setMoving(moved);
      put({ placings: moved, body: withKept(body, moved) });
    } catch (error) {
      setMoving(null);
      tellFault("The copy was not moved", error);
    }
  }

  /** A copy that was put by hand may be moved again. */
  function release(index: number): void {
    const next = placings.map((p, k) => (k === index ? { ...p, kept: undefined } : p));
    put({ placings: next, body: withKept(body, next) });
  }

  /** Saves what is unsaved. @returns whether the server has it all */
  async function flush(): Promise<boolean> {
    await keeper.flush();
    return keeper.get().state === "saved";
  }

  return {
    ...{ body, name, placings, pieces: ordered, ready: laid !== null, arranging, measured },
    ...{ keeper, state, theirs, reason, mine: value },
    ...{ put, arrange, stop, lay, release, flush },
  };
}

export type SheetWork = ReturnType<typeof useSheetWork>;

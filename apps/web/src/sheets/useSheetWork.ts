import { type PieceView, type SheetView } from "@hardline/contract";
import { machineKindOf, type Arrangement, type Machine, type Placing, type SheetBody } from "@hardline/core";
import { useQueryClient } from "@tanstack/react-query";
import { proxy, wrap, type Remote } from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import { ask, Refusal } from "../api/client";
import { pieceOf } from "../api/sheets";
import { tellFault } from "../shared/tell";
import { type Measured, type Nester } from "./nestWorker";

/** A piece as it was made, and of which revision. */
export interface KnownPiece extends PieceView {
  readonly revision: number;
}

/** Settings with the copies that lie where a hand put them. */
const withKept = (body: SheetBody, placings: readonly Placing[]): SheetBody => ({
  ...body,
  kept: placings.filter((p) => p.kept).map(({ kept: _, ...p }) => p),
});

/** A sheet at work: its settings and where its copies lie, saved as they change. */
export function useSheetWork(sheet: SheetView, machine: Machine | undefined) {
  const queries = useQueryClient();
  const [body, setBody] = useState<SheetBody>(sheet.body);
  const [name, setName] = useState(sheet.name);
  const [placings, setPlacings] = useState<readonly Placing[]>(sheet.placings);
  const [pieces, setPieces] = useState<ReadonlyMap<string, KnownPiece>>(new Map());
  const [arranging, setArranging] = useState<number | null>(null);
  const [saved, setSaved] = useState<"saved" | "saving" | "unsaved">("saved");
  const version = useRef(sheet.version);
  const saving = useRef<Promise<void>>(Promise.resolve());
  const nester = useRef<Remote<Nester> | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./nestWorker.ts", import.meta.url), { type: "module" });
    nester.current = wrap<Nester>(worker);
    return () => worker.terminate();
  }, []);

  const wanted = body.pieces.map((p) => p.routeId).join(" ");
  useEffect(() => {
    let live = true;
    for (const routeId of wanted.split(" ").filter(Boolean))
      pieceOf(routeId, body.bleedMm).then(
        ({ outcome, revision, files }) => {
          const piece = { ...(outcome as PieceView), pictureUrl: files[0].url, revision };
          if (live) setPieces((now) => new Map(now).set(routeId, piece));
        },
        (e) => tellFault("A piece could not be made", e),
      );
    return () => {
      live = false;
    };
  }, [wanted, body.bleedMm]);

  /** Saves one after another, each on the version that the one before made. */
  const save = useCallback(
    (
      next: { name: string; body: SheetBody; placings: readonly Placing[] },
      known: ReadonlyMap<string, KnownPiece>,
    ) => {
      setSaved("saving");
      const revisions = Object.fromEntries(
        next.body.pieces.flatMap(({ routeId }) =>
          known.has(routeId) ? [[routeId, known.get(routeId)!.revision]] : [],
        ),
      );
      saving.current = saving.current.then(async () => {
        try {
          const json = { ...next, revisions, version: version.current };
          const view = await ask<SheetView>(`/api/sheets/${sheet.id}`, { method: "PUT", json });
          version.current = view.version;
          queries.setQueryData(["sheet", sheet.id], view);
          setSaved("saved");
        } catch (error) {
          setSaved("unsaved");
          tellFault("The sheet was not saved", error);
          if (error instanceof Refusal && error.problem.status === 409)
            await queries.invalidateQueries({ queryKey: ["sheet", sheet.id] });
        }
      });
      return saving.current;
    },
    [queries, sheet.id],
  );

  const ordered = body.pieces.map(({ routeId }) => pieces.get(routeId));
  const ready = ordered.length > 0 && ordered.every(Boolean);
  const laid = ordered.map((p) => p!);
  const reach = machine?.margins;

  // Measured beside the page, and only when it rests: outlines are compared with one another.
  const [measured, setMeasured] = useState<Measured | null>(null);
  const rests = arranging === null;
  useEffect(() => {
    if (!ready || !rests || !nester.current) return;
    let live = true;
    const about = {
      ...{ reach: machine?.margins, readsMarks: Boolean(machine && machineKindOf(machine).marks) },
      printed: laid.some((p) => p.printed),
    };
    const counts = body.pieces.map((p) => p.count);
    void nester.current
      .measure(laid, counts, body, placings, about)
      .then((found) => live && setMeasured(found));
    return () => {
      live = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `laid` is made anew from `pieces` each time
  }, [ready, rests, placings, body, machine, pieces]);

  const put = (next: Partial<{ name: string; body: SheetBody; placings: readonly Placing[] }>): void => {
    const all = { name, body, placings, ...next };
    if (next.name !== undefined) setName(next.name);
    if (next.body) setBody(next.body);
    if (next.placings) setPlacings(next.placings);
    void save(all, pieces);
  };

  /** Arranges; better arrangements are shown as they come. */
  async function arrange(of: SheetBody = body): Promise<void> {
    if (!ready || !nester.current) return;
    setArranging(0);
    const told = proxy((share: number, better: Arrangement | null) => {
      if (better) setPlacings(better.placings);
      if (share >= 0) setArranging(share);
    });
    try {
      const found = await nester.current.arrange(
        laid,
        of.pieces.map((p) => p.count),
        of,
        reach,
        told,
      );
      put({ body: of, placings: found.placings });
    } catch (error) {
      tellFault("It was not arranged", error);
    }
    setArranging(null);
  }

  const stop = () => void nester.current?.stop();

  /** One copy laid by hand: the others give way, and it stays there from now on. */
  async function lay(at: number, to: Placing, done: boolean): Promise<void> {
    if (!ready || !nester.current) return;
    const kept = { ...to, kept: true as const };
    const moved = await nester.current.drag(laid, body, reach, placings, { at, to: kept });
    if (!done) return setPlacings(moved);
    put({ placings: moved, body: withKept(body, moved) });
  }

  /** A copy that was put by hand may be moved again. */
  function release(at: number): void {
    const next = placings.map((p, k) => (k === at ? { ...p, kept: undefined } : p));
    put({ placings: next, body: withKept(body, next) });
  }

  return {
    body,
    name,
    placings,
    pieces: ordered,
    ready,
    arranging,
    measured: rests ? measured : null,
    saved,
    put,
    arrange,
    stop,
    lay,
    release,
    flush: () => saving.current,
  };
}

export type SheetWork = ReturnType<typeof useSheetWork>;

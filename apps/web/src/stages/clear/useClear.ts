import { toleranceFor } from "@hardline/core/reading/proposal";
import { settingsOf } from "@hardline/core/route/route";
import { type ClearOp, type ClearSettings } from "@hardline/core/stage/clear/settings";
import { useMemo, useState } from "react";
import { type BenchScene } from "../face";
import { numbered } from "./opsModel";
import { type Showing } from "./worker";

/** What the hand does on the light table: picks anew, works on one operation, or nothing. */
export type Hand = { readonly kind: "pick" } | { readonly kind: "op"; readonly index: number } | null;

export interface Brush {
  readonly sizeMm: number;
  readonly softness: number;
  /** For a cut-out: which side the next scribble teaches. */
  readonly side: "keep" | "away";
}

/** The open Clear stage: its operations, what the hand does, and how the result is looked at. */
export function useClear({ route, ticket, set }: Pick<BenchScene, "route" | "ticket" | "set">) {
  const { reading } = ticket.artwork;
  const [hand, setHand] = useState<Hand>({ kind: "pick" });
  const [tolerance, setTolerance] = useState(() =>
    reading && reading.ground.share > 0.7 ? toleranceFor(reading) : 11,
  );
  const [joined, setJoined] = useState(true);
  const [brush, setBrush] = useState<Brush>({ sizeMm: 2, softness: 0, side: "keep" });
  const [showing, setShowing] = useState<Showing>("art");
  const [share, setShare] = useState<number | null>(null);
  const settings = settingsOf(route, "clear");
  return useMemo(() => {
    const ops = settings?.ops ?? [];
    const setOps = (next: readonly ClearOp[], more: Partial<ClearSettings> = {}) =>
      set("clear", { ops: numbered(ops, next), ...more });
    return {
      hand,
      setHand,
      tolerance,
      setTolerance,
      joined,
      setJoined,
      brush,
      setBrush,
      showing,
      setShowing,
      share,
      setShare,
      settings,
      ops,
      chosen: hand?.kind === "op" && ops[hand.index] ? { op: ops[hand.index], index: hand.index } : null,
      change: (index: number, op: ClearOp) => setOps(ops.map((o, i) => (i === index ? op : o))),
      /** Puts an operation at the end and takes it in hand, unless it is a pick: then picking goes on. */
      add: (op: ClearOp) => {
        // A first pick, lift or cut-out leaves dust; from then on specks are dropped, and the docket says so.
        const dust = ops.length === 0 && ["pick", "lift", "cutOut"].includes(op.op);
        setOps([...ops, op], dust && settings?.specksMm2 === 0 ? { specksMm2: 0.05 } : {});
        if (op.op !== "pick") setHand({ kind: "op", index: ops.length });
      },
      remove: (index: number) => {
        setOps(ops.filter((_, i) => i !== index));
        setHand(null);
      },
      move: (from: number, to: number) => {
        if (to < 0 || to >= ops.length) return;
        setOps(ops.toSpliced(from, 1).toSpliced(to, 0, ops[from]));
        setHand({ kind: "op", index: to });
      },
    };
  }, [hand, tolerance, joined, brush, showing, share, settings, set]);
}

export type ClearTools = ReturnType<typeof useClear>;

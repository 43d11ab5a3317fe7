import { useMemo } from "react";
import { useKeys } from "../shared/keys";
import { ROWS, type Row } from "../stages/faces";
import { type RouteKeeper } from "./RouteKeeper";
import { type SpreadState } from "./strip/useSpread";
import { type Table } from "./table/useTable";

interface Bound {
  readonly keeper: RouteKeeper;
  readonly spread: SpreadState;
  readonly table: Table;
  readonly open: Row;
  readonly setOpen: (row: Row) => void;
  /** The open stage is on the route, so that its own keys mean something. */
  readonly onRoute: boolean;
  /** What the open stage's hand holds. */
  readonly tool: unknown;
  /** The ticket's other routes. */
  readonly others: readonly { readonly id: string }[];
  readonly showKeys: () => void;
  /** No check points at its places any more. */
  readonly dropPlaces: () => void;
}

/** The bench's keys, and those of the stage that is open. */
export function useBenchKeys({
  keeper,
  spread,
  table,
  open,
  setOpen,
  onRoute,
  tool,
  others,
  showKeys,
  dropPlaces,
}: Bound): void {
  const move = (by: number) => setOpen(ROWS[Math.min(ROWS.length - 1, Math.max(0, ROWS.indexOf(open) + by))]);
  const beside = () => table.setBeside(nextOf([null, ...others.map((o) => o.id)], table.besideId));
  const keys = useMemo(
    () =>
      [
        ["mod+Z", () => void keeper.undo()],
        ["mod+shift+Z", () => void keeper.redo()],
        ["S", spread.toggle],
        ["M", table.toggleMaterial],
        ["N", beside],
        ["alt+ArrowDown", () => move(1)],
        ["alt+ArrowUp", () => move(-1)],
        ["shift+?", showKeys],
        ["?", showKeys],
        ["Escape", () => (spread.close(), dropPlaces())],
        ["B", table.stepBacking],
        ["W", table.toggleWipe],
        ["F", () => table.setMode("fit")],
        ["D", () => table.setMode("dot")],
        ["R", () => table.setMode("real")],
        ...(onRoute ? (open.face.keys?.(tool) ?? []) : [])
          // While a strip is open, numbers keep one of its variants.
          .filter(({ press }) => spread.axes.length === 0 || !/\d$/.test(press))
          .map(({ press, act }) => [press, act] as const),
      ] as [string, () => void][],
    // eslint-disable-next-line react-hooks/exhaustive-deps -- rebuilt at every change of what they close over
    [open, keeper, table, tool, onRoute, spread.axes.length],
  );
  useKeys(keys);
}

/** The one after another in a list, the first after the last. */
const nextOf = <T>(list: readonly T[], now: T): T => list[(list.indexOf(now) + 1) % list.length];

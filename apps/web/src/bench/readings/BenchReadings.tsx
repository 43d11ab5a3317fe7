import { type Check } from "@hardline/core/inspect/check";
import { withSettings } from "@hardline/core/route/route";
import { useMemo } from "react";
import { useSteady } from "../../shared/useSteady";
import { type BenchScene } from "../../stages/face";
import { type Table } from "../table/useTable";
import { ReadingsColumn } from "./ReadingsColumn";

interface Props {
  readonly scene: BenchScene;
  readonly table: Table;
  /** The check whose places are shown. */
  readonly places: Check | null;
  readonly showPlacesOf: (checkId: string | null) => void;
  readonly handOver: () => void;
}

/** The bench's right column. While a control is dragged the route changes with every move of the hand; this does not. */
export function BenchReadings({ scene, table, places, showPlacesOf, handOver }: Props) {
  const { ticket, route, keeper, finish, inspected, handOvers } = scene;
  const stale = inspected?.of !== route;
  const limits = useSteady(route.checks);
  const stages = useSteady(route.stages.map((s) => s.stage));
  return useMemo(
    () => (
      <ReadingsColumn
        {...{ inspected, stale, finish, limits, stages, places, handOver }}
        pieces={ticket.pieces}
        setPlaces={(check) => showPlacesOf(check?.id ?? null)}
        fly={(at) => finish && table.fly(at, finish)}
        repair={(stage, change) => keeper.change(withSettings(keeper.get().value, stage, change))}
        setLimits={(checks) => keeper.change({ ...keeper.get().value, checks })}
      />
    ),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what it calls is the same at every render
    [
      inspected,
      stale,
      finish,
      limits,
      stages,
      places,
      table,
      keeper,
      ticket.pieces,
      handOvers.busy,
      handOvers.asking,
    ],
  );
}

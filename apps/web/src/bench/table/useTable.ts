import { type Place } from "@hardline/core/inspect/check";
import { type Finish } from "@hardline/core/result/finish";
import { settingsOf, type Route } from "@hardline/core/route/route";
import { placeInOrder, STAGES, type StageId } from "@hardline/core/stage/stages";
import { useMemo, useState } from "react";
import { BACKINGS, type Backing } from "./backings";
import { flyTo, WHOLE, type Box, type TableView, type ZoomMode } from "../../table/geometry";

export interface Wipe {
  readonly on: boolean;
  /** Where the edge is, 0..1 of the table's width. */
  readonly at: number;
  /** Chosen stages; null follows the open one and the one before it. */
  readonly left: StageId | null;
  readonly right: StageId | null;
}

/** The nearest stage before that is on the route; the first has itself. */
const stageBefore = (id: StageId, route: Route): StageId =>
  STAGES.slice(0, placeInOrder(id)).findLast((s) => s.always || settingsOf(route, s.id))?.id ?? id;

/** How the light table looks at the picture: zoom and place, wipe, backing. */
export function useTable(firstBacking: string, material: Backing | null) {
  const backings = useMemo(() => (material ? [...BACKINGS, material] : BACKINGS), [material]);
  const [view, setView] = useState<TableView>(WHOLE);
  const [box, setBox] = useState<Box>({ width: 724, height: 720 });
  const [wipe, setWipe] = useState<Wipe>({ on: false, at: 0.5, left: null, right: null });
  const [backing, setBacking] = useState(() =>
    Math.max(
      0,
      BACKINGS.findIndex((b) => b.name === firstBacking),
    ),
  );
  const [onMaterial, setOnMaterial] = useState(false);
  const [besideId, setBeside] = useState<string | null>(null);
  const [hidden, setHidden] = useState<readonly string[]>([]);
  return useMemo(
    () => ({
      view,
      setView,
      box,
      setBox,
      wipe,
      setWipe,
      backings,
      backing: backings[Math.min(backing, backings.length - 1)],
      setBacking,
      /** Marks are seen as they will look on the material. */
      onMaterial,
      toggleMaterial: () => setOnMaterial((on) => !on),
      /** The route of the same ticket that lies beside this one. */
      besideId,
      setBeside,
      /** Names of plates and sets of paths that are not shown. */
      hidden,
      hideLayers: setHidden,
      toggleLayer: (name: string) =>
        setHidden((h) => (h.includes(name) ? h.filter((n) => n !== name) : [...h, name])),
      stepBacking: () => setBacking((b) => (b + 1) % backings.length),
      toggleWipe: () => setWipe((w) => ({ ...w, on: !w.on })),
      setMode: (mode: ZoomMode) => setView((v) => ({ ...v, mode })),
      fly: (place: Place, finish: Finish) => setView(flyTo(place, box, finish)),
      /** The stages left and right of the wipe's edge. */
      wipeStages: (open: StageId, route: Route): [StageId, StageId] => {
        const right = wipe.right ?? open;
        return [wipe.left ?? stageBefore(right, route), right];
      },
    }),
    [view, box, wipe, backing, backings, hidden, onMaterial, besideId],
  );
}

export type Table = ReturnType<typeof useTable>;

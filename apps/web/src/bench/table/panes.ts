import { type StageId } from "@hardline/core/stage/stages";
import { type Pane } from "../../engine/protocol";
import { type Seen } from "../../table/geometry";
import { type BesideRoute, type Surface } from "./surface";

/** What of a route is to be seen, and how. */
export interface Wanted {
  readonly seen: Seen;
  /** Pixels of the screen to one of the page. */
  readonly ratio: number;
  /** The stages left and right of the wipe. */
  readonly before: StageId;
  readonly after: StageId;
  readonly wiped: boolean;
  /** The material that marks are seen on; null = bare. */
  readonly material: Surface | null;
  readonly beside: BesideRoute | null;
  readonly backing: number;
  readonly hidden: Pane["hidden"];
  readonly way: Pane["way"] | null;
  /** How a stage's own drawing shows its result. */
  readonly view: (stage: StageId) => unknown;
}

/**
 * What the worker is asked for: exactly what is seen, at the screen's own pixels. First the picture itself, then what
 * lies left of the wipe where that differs, then the same place of the route beside it.
 */
export function panesFor({
  seen,
  ratio,
  before,
  after,
  wiped,
  material,
  beside,
  backing,
  hidden,
  way,
  view,
}: Wanted): Pane[] {
  const pane = (stage: StageId, more: Partial<Pane> = {}): Pane => ({
    stage,
    part: seen.part,
    width: Math.round(seen.on.width * ratio),
    height: Math.round(seen.on.height * ratio),
    base: backing,
    view: view(stage),
    hidden,
    ...(way ? { way } : {}),
    ...more,
  });
  // On a material the wipe's other side is the bare dots.
  const left = material ? after : before;
  return [
    pane(after, { appearance: material?.appearance }),
    ...(wiped && !beside && (material || left !== after) ? [pane(left)] : []),
    ...(beside
      ? [
          pane(after, {
            beside: true,
            appearance: beside.material?.appearance,
            base: beside.backing,
            view: undefined,
            way: undefined,
          }),
        ]
      : []),
  ];
}

import { nudged, useNudges } from "./nudges";
import { Surface } from "../../table/Surface";
import { type TableHand } from "../../table/hand";
import { type HandsProps } from "../face";
import { type HandOn } from "./handOn";
import { onTable, pathsIn } from "./onTable";
import { useDrawHand } from "./useDrawHand";
import { usePathsHand } from "./usePathsHand";
import { usePointsHand } from "./usePointsHand";
import { useRubHand } from "./useRubHand";
import { useRulers } from "./useRulers";
import { useShapeHand } from "./useShapeHand";
import { useWordsHand } from "./words/useWordsHand";
import { type PathHand, type PathTools } from "./usePathTools";

/** The hand on the paths of an open stage. */
export function PathHands({ scene, tools, finish, placed, box }: HandsProps<PathTools>) {
  if (tools.hand === null) return null;
  const to = onTable(placed, finish, scene.frame);
  const on: HandOn = {
    tools,
    to,
    paths: pathsIn(scene.sets),
    box,
    texts: scene.texts,
    piece: finish,
  };
  const Hand = HANDS[tools.hand];
  return <Hand key={tools.hand} {...on} />;
}

const handWith = (use: (on: HandOn) => TableHand) =>
  function Hand(on: HandOn) {
    const hand = useRulers(on, use(on));
    useNudges((by) => nudged(on, by));
    return <Surface hand={hand} box={on.box} />;
  };

/** A click fills the gap under it. */
const useFillHand = ({ tools, to }: HandOn): TableHand => ({
  cursor: "cell",
  help: "Click into a gap: it is filled up to the line around it.",
  down: (_e, x, y) => tools.edit([{ edit: "fill", at: to.named(to.toMm(x, y)) }]),
});

const Shape = handWith(useShapeHand);
const HANDS: Record<PathHand, (on: HandOn) => React.JSX.Element> = {
  paths: handWith(usePathsHand),
  points: handWith(usePointsHand),
  draw: handWith(useDrawHand),
  circle: Shape,
  rectangle: Shape,
  line: Shape,
  rub: handWith(useRubHand),
  fill: handWith(useFillHand),
  words: handWith(useWordsHand),
};

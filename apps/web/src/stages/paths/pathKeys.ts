import { editsOf, pressesFor } from "@hardline/core/edit/operations";
import { type StageKey } from "../face";
import { NOTHING, type PathHand, type PathTools } from "./usePathTools";

/** What can be taken in hand, by what it is called and its key. */
export const PATH_HANDS: readonly {
  readonly hand: PathHand;
  readonly label: string;
  readonly key: string;
}[] = [
  { hand: "paths", label: "Paths", key: "C" },
  { hand: "points", label: "Points", key: "P" },
  { hand: "draw", label: "Draw", key: "Y" },
  { hand: "circle", label: "Circle", key: "O" },
  { hand: "rectangle", label: "Box", key: "X" },
  { hand: "line", label: "Line", key: "I" },
  { hand: "rub", label: "Rub", key: "U" },
  { hand: "fill", label: "Fill", key: "G" },
  { hand: "words", label: "Words", key: "A" },
];

/** Keys of an open stage whose paths can be edited. */
export function pathKeys({ hand, setHand, chosen, edit }: PathTools): StageKey[] {
  const presses = pressesFor(chosen.kind, chosen.at.length);
  return [
    ...PATH_HANDS.map(({ key, hand: to }) => ({ press: key, act: () => setHand(hand === to ? null : to) })),
    ...presses.flatMap((press) =>
      press.key
        ? [
            {
              press: press.key,
              act: () => edit(editsOf(press, chosen.at), press.keeps ? undefined : NOTHING),
            },
          ]
        : [],
    ),
  ];
}

export const PATH_KEYS = [
  ["C  P", "choose paths, points"],
  ["Y  O  X  I", "draw a path, a circle, a box, a line"],
  ["U  G", "rub even, fill a gap"],
  ["A", "words in a font"],
  ["arrows  Delete", "nudge what is chosen, take it away"],
] as const;

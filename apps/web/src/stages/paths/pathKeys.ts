import { type StageKey } from "../face";
import { NOTHING, type PathHand, type PathTools } from "./usePathTools";

const HANDS: readonly (readonly [string, PathHand])[] = [
  ["C", "paths"],
  ["P", "points"],
  ["Y", "draw"],
  ["O", "circle"],
  ["X", "rectangle"],
  ["I", "line"],
  ["U", "rub"],
  ["G", "fill"],
];

/** Keys of an open stage whose paths can be edited. */
export function pathKeys({ hand, setHand, chosen, edit }: PathTools): StageKey[] {
  return [
    ...HANDS.map(([press, to]) => ({ press, act: () => setHand(hand === to ? null : to) })),
    {
      press: "Delete",
      act: () => {
        if (chosen.at.length === 0) return;
        const kind = chosen.kind === "paths" ? "delete" : "dropPoint";
        edit(
          chosen.at.map((at) => ({ edit: kind, at })),
          NOTHING,
        );
      },
    },
  ];
}

export const PATH_KEYS = [
  ["C  P", "choose paths, points"],
  ["Y  O  X  I", "draw a path, a circle, a box, a line"],
  ["U  G", "rub even, fill a gap"],
  ["arrows  Delete", "nudge what is chosen, take it away"],
] as const;

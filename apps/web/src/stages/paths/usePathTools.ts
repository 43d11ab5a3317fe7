import { type PathEdit } from "@hardline/core/edit/operations";
import { settingsOf, type Route } from "@hardline/core/route/route";
import { useMemo, useState } from "react";
import { type Guides } from "./snapping";
import { useGuides } from "./useGuides";

/** The stages whose paths a hand can edit. */
export type PathStage = "trace" | "cutLine";

/** What the pointer does to paths. */
export type PathHand =
  "paths" | "points" | "draw" | "circle" | "rectangle" | "line" | "rub" | "fill" | "words";

type At = readonly [number, number];

/** What is chosen, by places on it as fractions of the artwork: they still name it when the paths are made anew. */
export interface Chosen {
  readonly kind: "paths" | "points";
  readonly at: readonly At[];
}

export const NOTHING: Chosen = { kind: "paths", at: [] };

/** Sizes that the hand works with, in mm. */
export interface HandSizes {
  readonly diameter: number;
  readonly width: number;
  readonly height: number;
  readonly reach: number;
  readonly step: number;
  readonly within: number;
  readonly under: number;
}

const SIZES: HandSizes = { diameter: 5, width: 10, height: 6, reach: 1.5, step: 0.1, within: 0.1, under: 1 };

/** What a closed path that is drawn does to the shapes that its line crosses. */
export type Over = "join" | "subtract" | "own";

export interface PathTools {
  readonly stage: PathStage;
  readonly edits: readonly PathEdit[];
  /** Null: no path is edited, and the stage's own hand has the pointer. */
  readonly hand: PathHand | null;
  readonly setHand: (hand: PathHand | null) => void;
  readonly chosen: Chosen;
  readonly setChosen: (chosen: Chosen) => void;
  readonly sizes: HandSizes;
  readonly setSizes: (change: Partial<HandSizes>) => void;
  readonly over: Over;
  readonly setOver: (over: Over) => void;
  readonly guides: Guides;
  readonly setGuides: (guides: Guides) => void;
  /** Number of the edit whose words are changed. */
  readonly textAt: number | null;
  readonly setTextAt: (at: number | null) => void;
  /** Makes edits, and says what is chosen after them. */
  readonly edit: (edits: readonly PathEdit[], then?: Chosen) => void;
  readonly keepEdits: (edits: readonly PathEdit[]) => void;
}

/** As an edit says it: left out where both lines stay. */
export const overOf = (over: Over) => (over === "own" ? {} : { over });

/** What a hand has in mind for the paths of a stage. */
export function usePathTools(
  stage: PathStage,
  {
    route,
    saved,
    set,
  }: {
    readonly route: Route;
    readonly saved: { readonly id: string };
    readonly set: (stage: PathStage, settings: object) => void;
  },
): PathTools {
  const [hand, setHand] = useState<PathHand | null>(null);
  const [chosen, setChosen] = useState<Chosen>(NOTHING);
  const [sizes, setAllSizes] = useState(SIZES);
  const [over, setOver] = useState<Over>("join");
  const [textAt, setTextAt] = useState<number | null>(null);
  const [guides, setGuides] = useGuides(saved.id);
  const edits = settingsOf(route, stage)?.edits;
  return useMemo(
    () => ({
      ...{ stage, hand, chosen, setChosen, sizes, over, setOver, textAt, setTextAt, guides, setGuides },
      edits: edits ?? [],
      setHand: (next: PathHand | null) => {
        setHand(next);
        setChosen(NOTHING);
      },
      setSizes: (change: Partial<HandSizes>) => setAllSizes((now) => ({ ...now, ...change })),
      edit: (more: readonly PathEdit[], then?: Chosen) => {
        set(stage, { edits: [...(edits ?? []), ...more] });
        if (then) setChosen(then);
      },
      keepEdits: (kept: readonly PathEdit[]) => set(stage, { edits: kept }),
    }),
    [stage, hand, chosen, sizes, over, textAt, guides, setGuides, edits, set],
  );
}

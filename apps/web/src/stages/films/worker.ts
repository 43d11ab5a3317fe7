import { findColours } from "@hardline/core/film/clusters";
import { type Ink } from "@hardline/core/film/ink";
import { seenPrint, type PrintView } from "@hardline/core/film/seen";
import { wayView } from "@hardline/core/recolour/colourway";
import { runToEnd } from "@hardline/core/maths/work";
import { as, type Picture, type Result } from "@hardline/core/result/result";
import { named } from "@hardline/core/stage/films/inks";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { colourAt, type ColourWish } from "../colourAt";
import { type StageWorker } from "../stageWorker";

/** How the light table shows a print. */
export type FilmsView = PrintView;

/** What the panel is told of the films. */
export interface FilmsNote {
  readonly inks: readonly Ink[];
  readonly reason: string | null;
}

export interface FindWish {
  readonly count: number | "auto";
  readonly garment: string;
  readonly locked: readonly Ink[];
}

export interface SplitWish {
  readonly inks: readonly Ink[];
  readonly index: number;
  readonly garment: FilmsSettings["garment"];
}

const artOf = (taken: Record<string, Result>): Picture => as(taken.picture, "picture");

export const filmsWorker: StageWorker = {
  draw: (result, view, pane) =>
    result.kind === "plates" && result.print
      ? seenPrint(result, view, {
          ...((pane.view as FilmsView | undefined) ?? {}),
          ...(view.way && wayView(view.way)),
        })
      : null,
  note: (result): FilmsNote | undefined => {
    const { print } = as(result, "plates");
    return print && { inks: print.chosen, reason: print.reason };
  },
  answers: {
    /** Inks of flat colours found anew beside those that are locked. */
    find: (taken, { count, garment, locked }: FindWish): Ink[] => {
      const known = [garment, ...locked.map((i) => i.colour)];
      const free = count === "auto" ? count : Math.max(1, count - locked.length);
      const inks = [...locked];
      for (const { colour } of runToEnd(findColours(artOf(taken).colour, free, known)).colours)
        inks.push(named(colour, inks));
      return inks;
    },
    /** The colour of the art there, as #rrggbb; null where there is no art. */
    colour: (taken, { x, y }: ColourWish): string | null => colourAt(artOf(taken).colour, x, y),
    /** The two colours that one ink stands for, as #rrggbb; fewer where it is one through and through. */
    split: (taken, { inks, index, garment }: SplitWish): string[] => {
      const others = inks.filter((i, k) => k !== index && i.role !== "underbase").map((i) => i.colour);
      return runToEnd(findColours(artOf(taken).colour, 2, [garment, ...others])).colours.map((c) => c.colour);
    },
  },
};

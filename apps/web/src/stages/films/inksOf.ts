import { type Ink } from "@hardline/core/film/ink";
import { settingsOf } from "@hardline/core/route/route";
import { type BenchScene } from "../face";
import { type FilmsNote } from "./worker";

/** The inks as they are listed, or, where they are found from the art, as they were found last. */
export function inksOf({ route, shown }: Pick<BenchScene, "route" | "shown">): readonly Ink[] {
  const settings = settingsOf(route, "films");
  if (settings && Array.isArray(settings.inks)) return settings.inks as readonly Ink[];
  return noteOf({ shown })?.inks ?? [];
}

export const noteOf = ({ shown }: Pick<BenchScene, "shown">): FilmsNote | null =>
  (shown?.notes.films as FilmsNote | undefined) ?? null;

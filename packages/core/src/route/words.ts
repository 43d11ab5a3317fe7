import { type PathEdit } from "../edit/operations";
import { readRoute, type Route } from "./route";

const editsOf = (stage: object): readonly PathEdit[] =>
  (stage as { edits?: readonly PathEdit[] }).edits ?? [];

/** Words that stand on a route, each once, in the order of its stages; those that a table fills are left out. */
export const wordsOn = ({ stages }: Route): string[] => [
  ...new Set(
    stages
      .flatMap(editsOf)
      .flatMap((edit) => (edit.edit === "text" && edit.field === undefined ? [edit.text] : [])),
  ),
];

/**
 * A route with other words in the place of some: wherever those stand. Empty ones leave the words out.
 * @param words  what stands there, and what is to
 * @throws RouteError when something is none for words
 */
export function withWords(route: Route, words: ReadonlyMap<string, string>): Route {
  const changed = (edits: readonly PathEdit[]): PathEdit[] =>
    edits.flatMap((edit) => {
      const now = edit.edit === "text" && edit.field === undefined ? words.get(edit.text) : undefined;
      if (now === undefined) return [edit];
      return now.trim() === "" ? [] : [{ ...edit, text: now } as PathEdit];
    });
  const stages = route.stages.map((stage) => {
    const edits = editsOf(stage);
    return edits.length > 0 ? { ...stage, edits: changed(edits) } : stage;
  });
  return readRoute({ ...route, stages });
}

import { type PathEdit } from "../edit/operations";
import { readRoute, type Route } from "./route";

export type TextEdit = Extract<PathEdit, { edit: "text" }>;

const editsOf = (stage: object): readonly PathEdit[] =>
  (stage as { edits?: readonly PathEdit[] }).edits ?? [];

/** All words that stand on a route, in the order of its stages. */
export const textsOn = ({ stages }: Route): TextEdit[] =>
  stages.flatMap((stage) => editsOf(stage).filter((edit): edit is TextEdit => edit.edit === "text"));

/**
 * A route with other words in the place of some.
 * @param now  what is to stand there: undefined leaves it as it is, blank words are left out
 * @throws RouteError when something is none for words
 */
export function withTexts(route: Route, now: (edit: TextEdit) => string | undefined): Route {
  const changed = (edit: PathEdit): PathEdit[] => {
    const text = edit.edit === "text" ? now(edit) : undefined;
    if (text === undefined) return [edit];
    return text.trim() === "" ? [] : [{ ...edit, text } as PathEdit];
  };
  const stages = route.stages.map((stage) => {
    const edits = editsOf(stage);
    return edits.length > 0 ? { ...stage, edits: edits.flatMap(changed) } : stage;
  });
  return readRoute({ ...route, stages });
}

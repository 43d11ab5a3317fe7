import { type PathEdit } from "../edit/operations";
import { readRoute, type Route } from "./route";

/** Words of a table's columns, by their names. */
export type FieldValues = Readonly<Record<string, string>>;

type TextEdit = Extract<PathEdit, { edit: "text" }>;

const editsOf = (stage: object): readonly PathEdit[] =>
  (stage as { edits?: readonly PathEdit[] }).edits ?? [];

/** Words on a route that are filled from a table's column. */
export const fieldTexts = ({ stages }: Route): readonly (TextEdit & { readonly field: string })[] =>
  stages.flatMap((stage) =>
    editsOf(stage).filter(
      (edit): edit is TextEdit & { field: string } => edit.edit === "text" && edit.field !== undefined,
    ),
  );

/** Names of the columns that a route is filled from, each once. */
export const fieldsOf = (route: Route): string[] => [...new Set(fieldTexts(route).map((t) => t.field))];

/**
 * A route with its fields filled. A column that the table has not leaves the words as they are; an empty cell leaves them out.
 * @throws RouteError when a value is not one for words
 */
export function filledRoute(route: Route, values: FieldValues): Route {
  const filled = (edits: readonly PathEdit[]): PathEdit[] =>
    edits.flatMap((edit) => {
      const value = edit.edit === "text" && edit.field !== undefined ? values[edit.field] : undefined;
      if (value === undefined) return [edit];
      return value.trim() === "" ? [] : [{ ...edit, text: value } as PathEdit];
    });
  const stages = route.stages.map((stage) => {
    const edits = editsOf(stage);
    return edits.length > 0 ? { ...stage, edits: filled(edits) } : stage;
  });
  return readRoute({ ...route, stages });
}

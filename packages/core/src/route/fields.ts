import { type Route } from "./route";
import { textsOn, withTexts, type TextEdit } from "./texts";

/** Words of a table's columns, by their names. */
export type FieldValues = Readonly<Record<string, string>>;

/** Words on a route that are filled from a table's column. */
export const fieldTexts = (route: Route): (TextEdit & { readonly field: string })[] =>
  textsOn(route).filter((edit): edit is TextEdit & { field: string } => edit.field !== undefined);

/** Names of the columns that a route is filled from, each once. */
export const fieldsOf = (route: Route): string[] => [...new Set(fieldTexts(route).map((t) => t.field))];

/**
 * A route with its fields filled. A column that the table has not leaves the words as they are; an empty cell leaves them out.
 * @throws RouteError when a value is not one for words
 */
export const filledRoute = (route: Route, values: FieldValues): Route =>
  withTexts(route, ({ field }) => (field === undefined ? undefined : values[field]));

import { type ByView } from "@hardline/contract";
import { sql, type RawBuilder } from "kysely";
import { type Doer } from "../database/schema";
import { doer } from "./acting";

/** Who did what a row of this name says, as `ByView` has it. */
export const byOf = (row: string): RawBuilder<ByView> => {
  const [person, token] = [sql.ref(`${row}.person_id`), sql.ref(`${row}.token_id`)];
  return sql<ByView>`jsonb_build_object(
    'id', ${person}::text,
    'name', coalesce(
      (select name from people where id = ${person}),
      (select 'program ' || name from tokens where id = ${token}),
      'Hard Line'))`;
};

/** Whether something is of whoever asks. */
export const isOwn = ({ personId }: Partial<Doer>): boolean =>
  personId !== null && personId !== undefined && String(personId) === doer().personId;

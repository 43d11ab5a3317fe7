import { ticketFields, type TicketFields } from "@hardline/contract";

/** A name in words parted by `_`, as columns are called: materialColour is material_colour. */
type Snake<S extends string> = S extends `${infer Head}${infer Tail}`
  ? `${Head extends Lowercase<Head> ? Head : `_${Lowercase<Head>}`}${Snake<Tail>}`
  : "";

/** The fields of a ticket as they are kept. */
export type TicketColumns = { [Name in keyof TicketFields as Snake<Name>]: TicketFields[Name] };

const columnOf = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

/** What the fields of a ticket are until somebody says. */
export const USUAL = Object.fromEntries(
  ticketFields().map(([name, { usual }]) => [name, usual]),
) as unknown as TicketFields;

/** Fields as columns; what is no field is left out. */
export const columnsOf = <F extends Partial<TicketFields>>(
  given: F,
): Partial<TicketColumns> & TicketColumnsOf<F> =>
  Object.fromEntries(
    ticketFields()
      .filter(([name]) => name in given)
      .map(([name]) => [columnOf(name), given[name]]),
  ) as never;
type TicketColumnsOf<F> = F extends TicketFields ? TicketColumns : object;

/** Columns as fields. */
export const fieldsOf = (row: TicketColumns): TicketFields =>
  Object.fromEntries(
    ticketFields().map(([name]) => [name, (row as Record<string, unknown>)[columnOf(name)]]),
  ) as unknown as TicketFields;

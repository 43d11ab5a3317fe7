import { ticketFields, type TicketFields } from "@hardline/contract";

/** What the fields of a ticket are until somebody says. */
export const USUAL = Object.fromEntries(
  ticketFields().map(([name, { usual }]) => [name, usual]),
) as unknown as TicketFields;

/** Those of a ticket's fields that are given; what is no field is left out. */
export const fieldsOf = <F extends Partial<TicketFields>>(given: F): Pick<F, keyof TicketFields & keyof F> =>
  Object.fromEntries(
    ticketFields()
      .filter(([name]) => name in given)
      .map(([name]) => [name, given[name]]),
  ) as never;

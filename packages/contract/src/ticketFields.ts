import { OUTPUTS, type Output } from "./constants";

/** A field of a ticket: what it may hold, what it is called, what it is until somebody says. */
export type TicketField = {
  readonly label: string;
  /** Under its field, where the label does not say enough. */
  readonly hint?: string;
  /** It has a line of its own on the job sheet, where it is filled in. */
  readonly onSheet?: true;
} & (
  | {
      readonly kind: "text";
      readonly least: number;
      readonly most: number;
      readonly usual: string;
      /** What is known already is offered as one types. */
      readonly offers?: "customers";
    }
  | { readonly kind: "note"; readonly most: number; readonly usual: string }
  /** YYYY-MM-DD, or null for none. */
  | { readonly kind: "day"; readonly usual: null }
  | { readonly kind: "count"; readonly least: number; readonly most: number; readonly usual: number }
  | { readonly kind: "choice"; readonly of: readonly string[]; readonly usual: string }
  /** #rrggbb, or empty when nobody said. */
  | { readonly kind: "colour"; readonly usual: string }
);

/**
 * What an operator writes on a ticket, in the order of the form. A new field is an entry here and a column of the same name
 * in a migration, its words parted by `_`: form, interface, storage and job sheet follow.
 */
export const TICKET_FIELDS = {
  piece: { kind: "text", label: "Piece", least: 1, most: 120, usual: "" },
  customer: { kind: "text", label: "Customer", least: 0, most: 120, usual: "", offers: "customers" },
  due: { kind: "day", label: "Due", usual: null },
  pieces: { kind: "count", label: "Pieces", least: 1, most: 1000000, usual: 1 },
  output: { kind: "choice", label: "Output", of: OUTPUTS, usual: "laser" },
  material: { kind: "text", label: "Material", least: 0, most: 80, usual: "" },
  materialColour: {
    ...{ kind: "colour", label: "Its colour", hint: "Laid behind the art as one of the backings", usual: "" },
  },
  note: { kind: "note", label: "Note", most: 4000, usual: "" },
} as const satisfies Readonly<Record<string, TicketField>>;

type Fields = typeof TICKET_FIELDS;
type Held<F> = F extends { readonly of: typeof OUTPUTS }
  ? Output
  : F extends { readonly kind: "count" }
    ? number
    : F extends { readonly kind: "day" }
      ? string | null
      : string;

/** What a ticket holds of its fields. */
export type TicketFields = { -readonly [Name in keyof Fields]: Held<Fields[Name]> };

/** The fields by their names, in order. */
export const ticketFields = (): readonly (readonly [keyof TicketFields, TicketField])[] =>
  Object.entries(TICKET_FIELDS) as unknown as [keyof TicketFields, TicketField][];

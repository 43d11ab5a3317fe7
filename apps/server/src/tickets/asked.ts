import {
  MOST_TICKETS_AT_ONCE,
  TICKET_ORDERS,
  TICKET_STATES,
  TICKETS_AT_ONCE,
  type TicketOrder,
  type TicketState,
} from "@hardline/contract/constants";
import { ProblemException } from "../http/problems";

/** What of the shop's tickets is asked for. */
export interface Asked {
  /** Null: every ticket on the board; where something is looked for, those put away too. */
  readonly state: TicketState | null;
  readonly order: TicketOrder;
  /** Words that a ticket has all of, in small letters. */
  readonly words: readonly string[];
  /** The name of a route that it has; null for any. */
  readonly route: string | null;
  /** The customer that it is of; null for any. */
  readonly customer: string | null;
  /** Where the stretch before ended: what the order compares. */
  readonly after: readonly (string | number | boolean)[] | null;
  readonly most: number;
}

const [MOST_LETTERS, MOST_WORDS] = [200, 12];

/** What each order compares, ticket by ticket, as the database has it: whether it was put away comes first, its number last. */
export const COMPARED = {
  due: ["boolean", "date", "int"],
  number: ["boolean", "int"],
  customer: ["boolean", "text", "int"],
  looks: ["boolean", "int", "int", "int"],
} as const satisfies Readonly<Record<TicketOrder, readonly (keyof typeof KINDS)[]>>;
/** As what these are handed out. */
const KINDS = { boolean: "boolean", date: "string", text: "string", int: "number" } as const;

/** Reads a question about tickets, whole, before anything is looked up. @throws ProblemException that names the field */
export function askedOf(given: Readonly<Record<string, string | undefined>>): Asked {
  const order = oneOf("order", given.order ?? "due", TICKET_ORDERS);
  const state =
    given.state === undefined || given.state === "all" ? null : oneOf("state", given.state, TICKET_STATES);
  const most = given.most === undefined ? TICKETS_AT_ONCE : Number(given.most);
  if (!Number.isInteger(most) || most < 1 || most > MOST_TICKETS_AT_ONCE)
    throw refused("most", given.most, `a whole number from 1 to ${MOST_TICKETS_AT_ONCE}`);
  return {
    ...{ state, order, most, words: wordsOf(given.find), route: given.route ?? null },
    customer: given.customer === undefined ? null : idOf("customer", given.customer),
    after: given.after === undefined ? null : placeOf(given.after, order),
  };
}

/** The words of a search. */
export function wordsOf(find = ""): string[] {
  if (find.length > MOST_LETTERS)
    throw refused("find", `${find.slice(0, 20)}…`, `at most ${MOST_LETTERS} letters`);
  if (find.includes("\u0000")) throw refused("find", "a zero letter", "letters of any script");
  const words = [...new Set(find.toLowerCase().split(/\s+/).filter(Boolean))];
  if (words.length > MOST_WORDS)
    throw refused("find", `${words.length} words`, `at most ${MOST_WORDS} words`);
  return words;
}

/** Where a stretch ends, as it is handed out: what the order compares of its last ticket. */
export const placeText = (place: unknown): string => Buffer.from(JSON.stringify(place)).toString("base64url");

function placeOf(text: string, order: TicketOrder): (string | number | boolean)[] {
  const wrong = refused(
    "after",
    text.slice(0, 40),
    `what the answer before gave as next, in the order ${order}`,
  );
  let place: unknown;
  try {
    place = JSON.parse(Buffer.from(text, "base64url").toString());
  } catch {
    throw wrong;
  }
  const kinds = COMPARED[order];
  const isPlace = (list: unknown): list is (string | number | boolean)[] =>
    Array.isArray(list) && list.length === kinds.length && list.every((v, k) => typeof v === KINDS[kinds[k]]);
  if (!isPlace(place)) throw wrong;
  if (!place.every((v) => typeof v !== "number" || (Number.isInteger(v) && Math.abs(v) < 2 ** 31)))
    throw wrong;
  if (order === "due" && !/^(\d{4,6}-\d\d-\d\d|infinity)$/.test(String(place[1]))) throw wrong;
  if (place.some((v) => typeof v === "string" && v.includes("\u0000"))) throw wrong;
  return place;
}

function idOf(field: string, value: string): string {
  if (!/^\d{1,18}$/.test(value)) throw refused(field, value, "digits");
  return value;
}

function oneOf<T extends string>(field: string, value: string, all: readonly T[]): T {
  const found = all.find((v) => v === value);
  if (found === undefined) throw refused(field, value, all.join(", "));
  return found;
}

const refused = (field: string, value: unknown, allowed: string): ProblemException =>
  new ProblemException(400, "Not valid", `${field} is ${JSON.stringify(value)}; allowed: ${allowed}`);

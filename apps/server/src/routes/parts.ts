import { canonical } from "@hardline/core/settings/canonical";
import { type Kysely } from "kysely";
import { createHash } from "node:crypto";
import { type Schema } from "../database/schema";

type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };

/** In a stored body: a part that is kept once, by the hash of what it says, however many revisions have it. */
interface Named {
  readonly $part: string;
}

/** Shorter texts cost less than their names. */
const WORTH_SHARING = 200;
/** A list of many parts is kept in pieces of so many, so that one more at its end does not write all names anew. */
const PIECE = 32;

export interface Shared {
  readonly body: Json;
  /** The parts by their hash, as JSON. */
  readonly parts: ReadonlyMap<string, string>;
}

/** A body with everything worth it replaced by the name of a part, the parts' own parts too. */
export function share(body: Json): Shared {
  const parts = new Map<string, string>();
  const name = (value: Json): Json => {
    const text = canonical(value);
    if (text.length < WORTH_SHARING) return value;
    const $part = createHash("sha256").update(text).digest("hex");
    parts.set($part, text);
    return { $part };
  };
  const inner = (value: Json): Json => {
    if (typeof value !== "object" || value === null) return value;
    if (!Array.isArray(value))
      return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, shared(v as Json)]));
    const list = (value as readonly Json[]).map(shared);
    // Numbers of a stroke stay together.
    if (list.length <= PIECE || !list.some((v) => typeof v === "object")) return list;
    const pieces: Json[] = [];
    for (let k = 0; k < list.length; k += PIECE) pieces.push(name(list.slice(k, k + PIECE)));
    return { $pieces: pieces };
  };
  const shared = (value: Json): Json =>
    typeof value === "object" && value !== null ? name(inner(value)) : value;
  return { body: inner(body), parts };
}

/** The body as it was before it was shared. @param find  parts by their hashes */
export async function whole(
  body: Json,
  find: (names: readonly string[]) => Promise<ReadonlyMap<string, Json>>,
): Promise<Json> {
  const known = new Map<string, Json>();
  let wanted = namesIn(body);
  while (wanted.size > 0) {
    const found = await find([...wanted]);
    for (const name of wanted) {
      const part = found.get(name);
      if (part === undefined) throw new Error(`part ${name} of a route is missing`);
      known.set(name, part);
    }
    wanted = new Set([...found.values()].flatMap((part) => [...namesIn(part)]).filter((n) => !known.has(n)));
  }
  const put = (value: Json): Json => {
    if (typeof value !== "object" || value === null) return value;
    if (Array.isArray(value)) return (value as readonly Json[]).map(put);
    const entries = value as { readonly [key: string]: Json };
    if (typeof entries.$part === "string") return put(known.get(entries.$part)!);
    if (Array.isArray(entries.$pieces))
      return (entries.$pieces as readonly Json[]).flatMap((p) => put(p) as Json);
    return Object.fromEntries(Object.entries(entries).map(([k, v]) => [k, put(v)]));
  };
  return put(body);
}

function namesIn(value: Json): Set<string> {
  const names = new Set<string>();
  const walk = (v: Json): void => {
    if (typeof v !== "object" || v === null) return;
    if (!Array.isArray(v) && typeof (v as unknown as Named).$part === "string")
      names.add((v as unknown as Named).$part);
    else for (const inner of Object.values(v)) walk(inner as Json);
  };
  walk(value);
  return names;
}

/** Stores the parts of a body and returns it with their names in their places. */
export async function storeShared(db: Kysely<Schema>, body: object): Promise<string> {
  const { body: named, parts } = share(body as Json);
  if (parts.size > 0) {
    await db
      .insertInto("parts")
      .values([...parts].map(([sha256, text]) => ({ sha256, body: text })))
      .onConflict((c) => c.doNothing())
      .execute();
  }
  return JSON.stringify(named);
}

/** A stored body with its parts put back. */
export const readShared = (db: Kysely<Schema>, body: object): Promise<Json> =>
  whole(body as Json, async (names) => {
    const rows = await db
      .selectFrom("parts")
      .select(["sha256", "body"])
      .where("sha256", "in", [...names])
      .execute();
    return new Map(rows.map((r) => [r.sha256, r.body as Json]));
  });

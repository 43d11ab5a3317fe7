import {
  type ApprovalView,
  type ByView,
  type CustomerChange,
  type CustomerRecord,
  type CustomersView,
  type CustomerView,
  type NewCustomer,
} from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type RawBuilder } from "kysely";
import { Database } from "../database/database.module";
import { notFound, ProblemException } from "../http/problems";
import { byOf } from "../people/by";
import { placeText } from "../tickets/asked";

const AT_ONCE = 60;
const MOST_SHOWN = 200;

interface Row {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly phone: string;
  readonly address: string;
  readonly note: string;
  readonly tickets: number;
  readonly lastAt: Date | null;
  readonly createdAt: Date;
}

/** Whom the shop works for. */
@Injectable()
export class CustomersService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** A stretch of them by name, of those that have all the words; with words, those whose name begins so come first. */
  async list(words: readonly string[], after: string | null): Promise<CustomersView> {
    const found = having(words);
    const start = words.length > 0 ? `${words.join(" ").replace(/[\\%_]/g, "\\$&")}%` : "%";
    const place = sql`((fold(c.name) like ${start}) is false), fold(c.name)`;
    const begun =
      after === null
        ? sql`true`
        : sql`(${place}) > (${readPlace(after)[0]}::boolean, ${readPlace(after)[1]}::text)`;
    const { rows } = await sql<Row & { behind: boolean; low: string }>`
      with c as (
        select c.*, fold(c.name) as low, (fold(c.name) like ${start}) is false as behind from customers c
        where ${found} and ${begun} order by ${place} limit ${AT_ONCE + 1})
      select c.*, t.tickets, t.last_at from c left join lateral (
        select count(*)::int as tickets, max(created_at) as last_at from tickets where customer_id = c.id) t on true
      order by c.behind, fold(c.name)`.execute(this.database);
    const {
      rows: [{ count }],
    } = await sql<{ count: number }>`select count(*)::int as count from customers c where ${found}`.execute(
      this.database,
    );
    const shown = rows.slice(0, AT_ONCE);
    const last = shown.at(-1);
    return {
      customers: shown.map(viewOf),
      next: rows.length > AT_ONCE && last ? placeText([last.behind, last.low]) : null,
      count,
    };
  }

  async view(id: string): Promise<CustomerView> {
    const { rows } = await sql<Row>`
      select c.*, t.tickets, t.last_at from customers c left join lateral (
        select count(*)::int as tickets, max(created_at) as last_at from tickets where customer_id = c.id) t on true
      where c.id = ${id}`.execute(this.database);
    if (rows.length === 0) throw notFound("customer", id);
    return viewOf(rows[0]);
  }

  /** A customer with artwork, photographs and approvals; tickets are a list of their own. */
  async record(id: string): Promise<CustomerRecord> {
    const view = await this.view(id);
    const { rows: artworks } = await sql<{ id: string; name: string; ticketId: string; number: number }>`
      select * from (
        select distinct on (a.id) a.id::text, a.name, t.id::text as ticket_id, t.number
        from tickets t join artworks a on a.id = t.artwork_id where t.customer_id = ${id}
        order by a.id, t.number desc) a
      order by a.number desc limit ${MOST_SHOWN}`.execute(this.database);
    const { rows: photos } = await sql<{ key: string; artworkId: string; name: string }>`
      select p.sha256 as key, a.id::text as artwork_id, a.name from photos p join artworks a on a.id = p.artwork_id
      where p.customer_id = ${id} order by p.created_at limit ${MOST_SHOWN}`.execute(this.database);
    const { rows: approvals } = await sql<
      Omit<ApprovalView, "at"> & { at: Date; by: ByView; ticketId: string; number: number; piece: string }
    >`
      select a.id::text, a.route_id::text, a.revision, a.who, ${byOf("a")} as by, a.created_at as at,
        t.id::text as ticket_id, t.number, t.piece
      from approvals a join tickets t on t.id = a.ticket_id where t.customer_id = ${id}
      order by a.id desc limit ${MOST_SHOWN}`.execute(this.database);
    return {
      ...view,
      artworks: artworks.map((a) => ({ ...a, thumbnail: `/api/artworks/${a.id}/thumbnail` })),
      photos,
      approvals: approvals.map((a) => ({ ...a, at: a.at.toISOString() })),
    };
  }

  async add({ name, email, phone, address, note }: NewCustomer): Promise<CustomerView> {
    const id = await unlessNamed(name, async () => {
      const added = await this.database
        .insertInto("customers")
        .values({ name, email, phone, address, note })
        .returning("id")
        .executeTakeFirstOrThrow();
      return String(added.id);
    });
    return this.view(id);
  }

  async change(id: string, { name, email, phone, address, note }: CustomerChange): Promise<CustomerView> {
    const given = Object.entries({ name, email, phone, address, note }).filter(([, v]) => v !== undefined);
    if (given.length > 0)
      await unlessNamed(name ?? "", () =>
        this.database.updateTable("customers").set(Object.fromEntries(given)).where("id", "=", id).execute(),
      );
    return this.view(id);
  }
}

const viewOf = ({
  id,
  name,
  email,
  phone,
  address,
  note,
  tickets,
  lastAt,
  createdAt,
}: Row): CustomerView => ({
  ...{ id: String(id), name, email, phone, address, note, tickets },
  ...{ lastAt: lastAt?.toISOString() ?? null, createdAt: createdAt.toISOString() },
});

const having = (words: readonly string[]): RawBuilder<unknown> =>
  sql.join(
    [
      sql`true`,
      ...words.map(
        (word) =>
          sql`fold(c.name || ' ' || c.email || ' ' || c.phone || ' ' || c.address) like ${`%${word.replace(/[\\%_]/g, "\\$&")}%`}`,
      ),
    ],
    sql` and `,
  );

function readPlace(text: string): readonly [boolean, string] {
  try {
    const place: unknown = JSON.parse(Buffer.from(text, "base64url").toString());
    if (
      Array.isArray(place) &&
      typeof place[0] === "boolean" &&
      typeof place[1] === "string" &&
      !place[1].includes("\u0000")
    )
      return [place[0], place[1]];
  } catch {
    // told below
  }
  throw new ProblemException(
    400,
    "Not valid",
    `after is ${JSON.stringify(text.slice(0, 40))}; allowed: what the answer before gave as next`,
  );
}

async function unlessNamed<T>(name: string, act: () => Promise<T>): Promise<T> {
  try {
    return await act();
  } catch (error) {
    if ((error as { code?: string }).code !== "23505") throw error;
    throw new ProblemException(409, "Taken", `There is a customer called ${name} already.`);
  }
}

import {
  type NewTicket,
  type TicketChange,
  type TicketCounts,
  type TicketFields,
  type TicketState,
  type TicketsView,
  type TicketView,
} from "@hardline/contract";
import { TICKET_STATES, type TicketOrder } from "@hardline/contract/constants";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type RawBuilder, type UpdateObject } from "kysely";
import { ArtworksService, viewOf } from "../artworks/artworks.service";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound } from "../http/problems";
import { houseRoute } from "../houseRoutes/houseRoutes.service";
import { addRoute } from "../routes/routes.service";
import { COMPARED, placeText, type Asked } from "./asked";
import { firstRoute } from "./firstRoute";
import { fieldsOf, USUAL } from "./fields";

type TicketRow = Awaited<ReturnType<TicketsService["rows"]>>[number];

@Injectable()
export class TicketsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
  ) {}

  /** A stretch of the tickets asked for, in their order. */
  async list(asked: Asked): Promise<TicketsView> {
    const { order, after, most } = asked;
    const compared = sql.join([...ORDERS[order]]);
    const here = COMPARED[order].map((type, k) => sql`${after?.[k]}::${sql.raw(type)}`);
    const chosen = sql`
      select t.id, jsonb_build_array(${compared}) as place from tickets t
      where ${sql.join([...partOf(asked), ...(after ? [sql`(${compared}) > (${sql.join(here)})`] : [])], sql` and `)}
      order by ${compared} limit ${most + 1}`;
    const { rows: found } = await sql<{ id: string; place: unknown }>`${chosen}`.execute(this.database);
    const shown = found.slice(0, most);
    const rows = await this.rows(shown.map((t) => String(t.id)));
    return {
      tickets: rows.map((row) => ticketView({ ...row, artwork: { ...row.artwork, reading: null } })),
      next: found.length > most ? placeText(shown[most - 1].place) : null,
    };
  }

  /** How many tickets are in each state, of those that have all the words. */
  async counts(words: readonly string[]): Promise<TicketCounts> {
    const { rows } = await sql<{ state: TicketState; count: number }>`
      select t.state, count(*) as count from tickets t where ${sql.join(having(words), sql` and `)} group by t.state`.execute(
      this.database,
    );
    const counts = new Map(rows.map(({ state, count }) => [state, Number(count)]));
    return Object.fromEntries(TICKET_STATES.map((state) => [state, counts.get(state) ?? 0])) as TicketCounts;
  }

  async get(id: string): Promise<TicketView> {
    const [row] = await this.rows([id]);
    if (!row) throw notFound("ticket", id);
    return ticketView(row);
  }

  /** A ticket with the artwork's name as its piece until somebody writes a better one, and a first route. */
  async create({ artworkId, houseRouteId, ...given }: NewTicket): Promise<TicketView> {
    const artwork = await this.artworks.row(artworkId);
    const route = houseRouteId ? (await houseRoute(this.database, houseRouteId)).route : firstRoute(artwork);
    const id = await this.database.transaction().execute(async (tx) => {
      const ticket = await tx
        .insertInto("tickets")
        .values({
          artworkId,
          ...fieldsOf({ ...USUAL, piece: pieceFrom(artwork), ...withoutUndefined(given) }),
        })
        .returning("id")
        .executeTakeFirstOrThrow();
      await addRoute(tx, String(ticket.id), route);
      return String(ticket.id);
    });
    return this.get(id);
  }

  async change(id: string, change: TicketChange): Promise<TicketView> {
    const values = fieldsOf(withoutUndefined(change));
    if (Object.keys(values).length > 0) await this.update(id, values);
    return this.get(id);
  }

  async archive(id: string, away: boolean): Promise<TicketView> {
    await this.update(id, { archivedAt: away ? new Date() : null });
    return this.get(id);
  }

  private async update(id: string, values: Partial<Schema["tickets"]>): Promise<void> {
    const set = values as UpdateObject<Schema, "tickets">;
    const query = this.database.updateTable("tickets").set(set).where("id", "=", id);
    const [{ numUpdatedRows }] = await query.execute();
    if (numUpdatedRows === 0n) throw notFound("ticket", id);
  }

  /** Tickets, in the order of their numbers here, with their artwork and their routes as they stand, in two queries. */
  private async rows(ids: readonly string[]) {
    const { rows } = await sql<
      TicketFields & {
        id: string;
        number: number;
        state: TicketState;
        looks: number;
        stops: number;
        createdAt: Date;
        customerId: string | null;
        artworkId: string;
        routes: { id: string; name: string; revision: number; thumbnail: boolean }[];
      }
    >`
      select t.*, coalesce(r.routes, '[]') as routes
      from unnest(${ids}::bigint[]) with ordinality as asked (id, place)
      join tickets t on t.id = asked.id
      left join lateral (
        select jsonb_agg(jsonb_build_object(
          'id', r.id::text, 'name', v.body->>'name', 'revision', r.revision,
          'thumbnail', v.thumbnail_sha256 is not null
        ) order by r.id) as routes
        from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision
        where r.ticket_id = t.id
      ) r on true
      order by asked.place`.execute(this.database);
    const artworkIds = [...new Set(rows.map((row) => row.artworkId))];
    const artworks = await this.database
      .selectFrom("artworks")
      .selectAll()
      .where("id", "=", sql<string>`any(${artworkIds}::bigint[])`)
      .execute();
    const artworkOf = new Map(artworks.map((artwork) => [String(artwork.id), artwork]));
    return rows.map((row) => ({ ...row, artwork: artworkOf.get(String(row.artworkId))! }));
  }
}

/** What each order compares, the lesser first, as `COMPARED` lists it; each is an index (migration 010). */
const AWAY = sql`(t.archived_at is not null)`;
const NUMBER = sql`t.number`;
const ORDERS: Readonly<Record<TicketOrder, readonly RawBuilder<unknown>[]>> = {
  due: [AWAY, sql`coalesce(t.due, 'infinity'::date)`, NUMBER],
  number: [AWAY, sql`(-t.number)`],
  customer: [AWAY, sql`t.customer`, NUMBER],
  looks: [AWAY, sql`(-t.stops)`, sql`(-t.looks)`, NUMBER],
};

/** The tickets that are asked for, as conditions that all hold. */
function partOf({ state, words, route, customer }: Asked): RawBuilder<unknown>[] {
  const away = (is: boolean) => sql`${AWAY} = ${sql.lit(is)}`;
  return [
    ...having(words),
    ...(customer === null ? [] : [sql`t.customer_id = ${customer}`]),
    // Looked for by words, or on a customer's page, those put away are found as well.
    ...(state === null && words.length === 0 && customer === null ? [away(false)] : []),
    ...(state === null ? [] : [away(state === "archived"), sql`t.state = ${state}`]),
    ...(route === null
      ? []
      : [
          sql`exists (
            select from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision
            where r.ticket_id = t.id and v.body->>'name' = ${route}
          )`,
        ]),
  ];
}

const having = (words: readonly string[]): RawBuilder<unknown>[] => [
  sql`true`,
  ...words.map((word) => sql`t.words like ${`%${word.replace(/[\\%_]/g, "\\$&")}%`}`),
];

function ticketView(row: TicketRow): TicketView {
  const { number, state, looks, stops, routes } = row;
  const shown = routes.find((r) => r.thumbnail);
  return {
    ...fieldsOf(row),
    ...{ id: String(row.id), number, state, looks, stops },
    thumbnail: shown
      ? `/api/routes/${shown.id}/thumbnail?revision=${shown.revision}`
      : `/api/artworks/${row.artwork.id}/thumbnail`,
    createdAt: row.createdAt.toISOString(),
    customerId: row.customerId === null ? null : String(row.customerId),
    artwork: viewOf(row.artwork),
    routes: routes.map(({ id, name, revision }) => ({ id, name, revision })),
  };
}

/** "harbour-light_2.jpg" is a piece called "Harbour light 2"; of a file of several pages, with its page. */
function pieceFrom({ name, page, pages }: { name: string; page: number; pages: number }): string {
  const words = name
    .replace(/\.[^.]+$/, "")
    .replace(/[-_]+/g, " ")
    .trim();
  const piece = words ? words[0].toUpperCase() + words.slice(1) : "New piece";
  return pages > 1 ? `${piece}, page ${page}` : piece;
}

const withoutUndefined = <T extends object>(given: T): T =>
  Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as T;

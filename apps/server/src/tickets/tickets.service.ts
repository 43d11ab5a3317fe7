import {
  type NewTicket,
  type TicketChange,
  type TicketFields,
  type TicketState,
  type TicketView,
} from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type UpdateObject } from "kysely";
import { ArtworksService, viewOf } from "../artworks/artworks.service";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound } from "../http/problems";
import { houseRoute } from "../houseRoutes/houseRoutes.service";
import { addRoute } from "../routes/routes.service";
import { firstRoute } from "./firstRoute";
import { fieldsOf, USUAL } from "./fields";

type TicketRow = Awaited<ReturnType<TicketsService["rows"]>>[number];

@Injectable()
export class TicketsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
  ) {}

  /** Tickets on the board, or those put away, soonest due first. */
  async list(archived: boolean): Promise<TicketView[]> {
    const rows = await this.rows(archived ? sql`t.archived_at is not null` : sql`t.archived_at is null`);
    return rows.map(ticketView);
  }

  async get(id: string): Promise<TicketView> {
    const [row] = await this.rows(sql`t.id = ${id}`);
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
          ...fieldsOf({ ...USUAL, piece: pieceFrom(artwork.name), ...withoutUndefined(given) }),
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

  /** Tickets with their artwork, their routes as they stand and what was found on them, in two queries. */
  private async rows(where: ReturnType<typeof sql>) {
    const { rows } = await sql<
      TicketFields & {
        id: string;
        number: number;
        archivedAt: Date | null;
        createdAt: Date;
        artworkId: string;
        routes: {
          id: string;
          name: string;
          revision: number;
          looks: number | null;
          stops: number | null;
          thumbnail: boolean;
          handedOver: boolean;
        }[];
      }
    >`
      select t.*, coalesce(r.routes, '[]') as routes
      from tickets t
      left join lateral (
        select jsonb_agg(jsonb_build_object(
          'id', r.id::text, 'name', v.body->>'name', 'revision', r.revision, 'looks', v.looks, 'stops', v.stops,
          'thumbnail', v.thumbnail_sha256 is not null,
          'handedOver', exists (select from renders d where d.route_id = r.id and d.revision = r.revision and d.state = 'done' and d.kind = 'hand over')
        ) order by r.id) as routes
        from routes r join route_revisions v on v.route_id = r.id and v.revision = r.revision
        where r.ticket_id = t.id
      ) r on true
      where ${where}
      order by t.due nulls last, t.number`.execute(this.database);
    const ids = [...new Set(rows.map((row) => row.artworkId))];
    const artworks = await this.database
      .selectFrom("artworks")
      .selectAll()
      .where("id", "=", sql<string>`any(${ids}::bigint[])`)
      .execute();
    const artworkOf = new Map(artworks.map((artwork) => [String(artwork.id), artwork]));
    return rows.map((row) => ({ ...row, artwork: artworkOf.get(String(row.artworkId))! }));
  }
}

function ticketView(row: TicketRow): TicketView {
  const { number, routes } = row;
  const shown = routes.find((r) => r.thumbnail);
  return {
    ...fieldsOf(row),
    id: String(row.id),
    number,
    state: stateOf(row),
    looks: sum(routes.map((r) => r.looks ?? 0)),
    stops: sum(routes.map((r) => r.stops ?? 0)),
    thumbnail: shown
      ? `/api/routes/${shown.id}/thumbnail?revision=${shown.revision}`
      : `/api/artworks/${row.artwork.id}/thumbnail`,
    createdAt: row.createdAt.toISOString(),
    artwork: viewOf(row.artwork),
    routes: routes.map(({ id, name, revision }) => ({ id, name, revision })),
  };
}

const sum = (values: number[]): number => values.reduce((a, b) => a + b, 0);

function stateOf({ archivedAt, routes }: TicketRow): TicketState {
  if (archivedAt) return "archived";
  if (routes.length > 0 && routes.every((r) => r.handedOver)) return "handed over";
  if (routes.some((r) => (r.stops ?? 0) > 0)) return "to stop";
  if (routes.some((r) => (r.looks ?? 0) > 0)) return "to look at";
  return routes.every((r) => r.looks === null) ? "draft" : "ready";
}

/** "harbour-light_2.jpg" is a piece called "Harbour light 2". */
function pieceFrom(fileName: string): string {
  const words = fileName
    .replace(/\.[^.]+$/, "")
    .replace(/[-_]+/g, " ")
    .trim();
  return words ? words[0].toUpperCase() + words.slice(1) : "New piece";
}

const withoutUndefined = <T extends object>(given: T): T =>
  Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as T;

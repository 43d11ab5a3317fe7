import { type OrderAgain, type OrderAgainView, type TicketView } from "@hardline/contract";
import { readRoute, withColourways, type Route } from "@hardline/core/route/route";
import { withWords, wordsOn } from "@hardline/core/route/words";
import { Inject, Injectable } from "@nestjs/common";
import { type Kysely } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { ProblemException } from "../http/problems";
import { readShared } from "../routes/parts";
import { addRoute } from "../routes/routes.service";
import { fieldsOf } from "../tickets/fields";
import { TicketsService } from "../tickets/tickets.service";

/** Longer words are no name that somebody types anew. */
const MOST_LETTERS = 500;

/** The same once more: a new ticket with the artwork and the routes of an old one, changed in what is asked. */
@Injectable()
export class OrderAgainService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(TicketsService) private readonly tickets: TicketsService,
  ) {}

  /** What of a ticket can be asked for otherwise. */
  async offer(ticketId: string): Promise<OrderAgainView> {
    const ticket = await this.tickets.get(ticketId);
    const routes = (await this.routesOf(this.database, ticketId)).map(({ route }) => route);
    return {
      ticket,
      words: [...new Set(routes.flatMap(wordsOn))].filter((w) => w.length <= MOST_LETTERS),
      colourways: [...new Set(routes.flatMap((r) => r.colourways.map((w) => w.name)))],
    };
  }

  async order(ticketId: string, { words = [], colourway, ...given }: OrderAgain): Promise<TicketView> {
    const { ticket: old, colourways } = await this.offer(ticketId);
    if (colourway !== undefined && !colourways.includes(colourway))
      throw new ProblemException(
        400,
        "Not valid",
        `colourway is ${JSON.stringify(colourway)}; allowed: ${colourways.join(", ") || "none, as there are none"}`,
      );
    const others = new Map(words.filter(({ was, now }) => was !== now).map(({ was, now }) => [was, now]));
    const id = await this.database.transaction().execute(async (tx) => {
      const routes = await this.routesOf(tx, ticketId);
      const garment = routes
        .flatMap(({ route }) => route.colourways)
        .find((w) => w.name === colourway)?.garment;
      const asked = Object.fromEntries(Object.entries(given).filter(([, v]) => v !== undefined));
      const { id: added } = await tx
        .insertInto("tickets")
        .values({
          ...fieldsOf({ ...old, due: null, ...(garment ? { materialColour: garment } : {}), ...asked }),
          artworkId: old.artwork.id,
          orderedAgain: ticketId,
        })
        .returning("id")
        .executeTakeFirstOrThrow();
      for (const { route, looks, stops, thumbnailSha256 } of routes) {
        const changed = only(withWords(route, others), colourway);
        const routeId = await addRoute(tx, String(added), changed);
        // What was seen of the old one is what is seen of this, as long as nothing on it is another.
        if (others.size === 0)
          await tx
            .updateTable("routeRevisions")
            .set({ looks, stops, thumbnailSha256 })
            .where("routeId", "=", routeId)
            .execute();
      }
      return String(added);
    });
    return this.tickets.get(id);
  }

  private async routesOf(db: Kysely<Schema>, ticketId: string) {
    const rows = await db
      .selectFrom("routes as r")
      .innerJoin("routeRevisions as v", (j) =>
        j.onRef("v.routeId", "=", "r.id").onRef("v.revision", "=", "r.revision"),
      )
      .select(["v.body", "v.looks", "v.stops", "v.thumbnailSha256"])
      .where("r.ticketId", "=", ticketId)
      .orderBy("r.id")
      .execute();
    return Promise.all(
      rows.map(async ({ body, ...seen }) => ({ ...seen, route: readRoute(await readShared(db, body)) })),
    );
  }
}

/** One colourway is handed over, where one was chosen. */
const only = (route: Route, name: string | undefined): Route =>
  name === undefined || !route.colourways.some((w) => w.name === name)
    ? route
    : withColourways(
        route,
        route.colourways.map((w) => ({ ...w, shown: w.name === name })),
      );

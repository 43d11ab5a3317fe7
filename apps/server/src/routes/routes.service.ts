import { type Findings, type RouteView } from "@hardline/contract";
import { readRoute, type Route } from "@hardline/core/route/route";
import { canonical } from "@hardline/core/settings/canonical";
import { changesBetween } from "@hardline/core/route/changes";
import { Inject, Injectable } from "@nestjs/common";
import { type Kysely } from "kysely";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";
import { doer } from "../people/acting";
import { readShared, storeShared } from "./parts";

/**
 * Routes and every revision they ever had. A revision knows which one it was made from; undo goes there, redo
 * to the latest one made from where the route stands. Nothing is ever removed.
 */
@Injectable()
export class RoutesService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async create(ticketId: string, route: Route): Promise<RouteView> {
    return this.database.transaction().execute(async (tx) => {
      const ticket = await tx
        .selectFrom("tickets")
        .select("id")
        .where("id", "=", ticketId)
        .executeTakeFirst();
      if (!ticket) throw notFound("ticket", ticketId);
      return view(tx, await addRoute(tx, ticketId, route));
    });
  }

  async get(id: string): Promise<RouteView> {
    return view(this.database, id);
  }

  /**
   * A route as it stands, for whoever saw a revision of it.
   * @throws ProblemException 409 with the route where it has another revision by now
   */
  async asSeen(id: string, seen: number | undefined): Promise<RouteView> {
    const current = await this.get(id);
    if (seen === undefined || seen === current.revision) return current;
    throw new ProblemException(
      409,
      "Changed meanwhile",
      `Revision ${seen} of ${current.route.name} was seen, and it is revision ${current.revision} by now. Look at it and ask again.`,
      { current },
    );
  }

  /** A route as it was at a revision. */
  async atRevision(id: string, revision: number): Promise<Route> {
    const row = await this.database
      .selectFrom("routeRevisions")
      .select("body")
      .where("routeId", "=", id)
      .where("revision", "=", revision)
      .executeTakeFirst();
    if (!row) throw notFound("revision", `${revision} of route ${id}`);
    return readRoute(await readShared(this.database, row.body));
  }

  /**
   * Adds a revision. Saving what already stands adds none, also for one who saved it and was never answered: so a save
   * may be sent again.
   */
  save(id: string, version: number, route: Route): Promise<RouteView> {
    const stands = (current: CurrentRow) => canonical(current.body) === canonical(route);
    return this.move(id, version, stands, (tx, current) => this.addAfter(tx, id, current, route));
  }

  /** Adds a revision that says what an old one said. */
  bringBack(id: string, revision: number, version: number): Promise<RouteView> {
    return this.move(id, version, never, async (tx, current) => {
      const old = await tx
        .selectFrom("routeRevisions")
        .select("body")
        .where("routeId", "=", id)
        .where("revision", "=", revision)
        .executeTakeFirst();
      if (!old) throw notFound("revision", `${revision} of route ${id}`);
      const route = readRoute(await readShared(tx, old.body));
      if (canonical(current.body) === canonical(route)) return null;
      return this.addAfter(tx, id, current, route, revision);
    });
  }

  undo(id: string, version: number): Promise<RouteView> {
    return this.move(id, version, never, async (_tx, current) => current.parent);
  }

  redo(id: string, version: number): Promise<RouteView> {
    return this.move(id, version, never, async (tx, current) => latestChild(tx, id, current.revision));
  }

  /** Keeps what was found for a revision, for the board. */
  async find(id: string, { revision, looks, stops, thumbnail }: Findings): Promise<void> {
    const thumbnailSha256 = thumbnail
      ? await this.blobs.put(Buffer.from(thumbnail, "base64"), "image/png")
      : undefined;
    const { numUpdatedRows } = await this.database
      .updateTable("routeRevisions")
      .set({ looks, stops, ...(thumbnailSha256 ? { thumbnailSha256 } : {}) })
      .where("routeId", "=", id)
      .where("revision", "=", revision)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) throw notFound("revision", `${revision} of route ${id}`);
  }

  async thumbnail(id: string): Promise<string> {
    const row = await this.database
      .selectFrom("routes as r")
      .innerJoin("routeRevisions as v", (j) =>
        j.onRef("v.routeId", "=", "r.id").onRef("v.revision", "=", "r.revision"),
      )
      .select("v.thumbnailSha256")
      .where("r.id", "=", id)
      .executeTakeFirst();
    if (!row?.thumbnailSha256) throw notFound("thumbnail of route", id);
    return row.thumbnailSha256;
  }

  /** A revision made from the one that stands. @returns its number */
  private async addAfter(
    tx: Kysely<Schema>,
    id: string,
    current: CurrentRow,
    route: Route,
    broughtBack?: number,
  ): Promise<number> {
    const { last } = await tx
      .selectFrom("routeRevisions")
      .select((e) => e.fn.max("revision").as("last"))
      .where("routeId", "=", id)
      .executeTakeFirstOrThrow();
    const changes = JSON.stringify(changesBetween(readRoute(current.body), route));
    await addRevision(tx, id, last + 1, current.revision, route, { changes, broughtBack });
    return last + 1;
  }

  /** Points the route at another revision, if it still stands where the caller saw it. */
  private async move(
    id: string,
    version: number,
    stands: (current: CurrentRow) => boolean,
    to: (tx: Kysely<Schema>, current: CurrentRow) => Promise<number | null>,
  ): Promise<RouteView> {
    return this.database.transaction().execute(async (tx) => {
      await tx.selectFrom("routes").select("id").where("id", "=", id).forUpdate().execute();
      const current = await currentRow(tx, id);
      if (stands(current)) return view(tx, id);
      if (current.version !== version) {
        throw new ProblemException(
          409,
          "Changed meanwhile",
          "Somebody else changed this route since it was opened here.",
          {
            current: await view(tx, id),
          },
        );
      }
      const revision = await to(tx, current);
      if (revision !== null) {
        await tx
          .updateTable("routes")
          .set({ revision, version: version + 1 })
          .where("id", "=", id)
          .execute();
      }
      return view(tx, id);
    });
  }
}

const never = (): boolean => false;

type CurrentRow = Awaited<ReturnType<typeof currentRow>>;

async function currentRow(db: Kysely<Schema>, id: string) {
  const row = await db
    .selectFrom("routes as r")
    .innerJoin("routeRevisions as v", (j) =>
      j.onRef("v.routeId", "=", "r.id").onRef("v.revision", "=", "r.revision"),
    )
    .select(["r.ticketId", "r.version", "r.revision", "v.parent", "v.body", "v.createdAt"])
    .where("r.id", "=", id)
    .executeTakeFirst();
  if (!row) throw notFound("route", id);
  return { ...row, body: await readShared(db, row.body) };
}

async function latestChild(db: Kysely<Schema>, id: string, revision: number): Promise<number | null> {
  const child = await db
    .selectFrom("routeRevisions")
    .select("revision")
    .where("routeId", "=", id)
    .where("parent", "=", revision)
    .orderBy("revision", "desc")
    .limit(1)
    .executeTakeFirst();
  return child?.revision ?? null;
}

async function view(db: Kysely<Schema>, id: string): Promise<RouteView> {
  const { ticketId, version, revision, parent, body, createdAt } = await currentRow(db, id);
  return {
    id,
    ticketId: String(ticketId),
    version,
    revision,
    canUndo: parent !== null,
    canRedo: (await latestChild(db, id, revision)) !== null,
    savedAt: createdAt.toISOString(),
    route: readRoute(body),
  };
}

/** A new route of a ticket, at its first revision. */
export async function addRoute(tx: Kysely<Schema>, ticketId: string, route: Route): Promise<string> {
  const { id } = await tx
    .insertInto("routes")
    .values({ ticketId, revision: 1 })
    .returning("id")
    .executeTakeFirstOrThrow();
  await addRevision(tx, String(id), 1, null, route);
  return String(id);
}

async function addRevision(
  tx: Kysely<Schema>,
  id: string,
  revision: number,
  parent: number | null,
  route: Route,
  told: { readonly changes?: string; readonly broughtBack?: number } = {},
): Promise<void> {
  await tx
    .insertInto("routeRevisions")
    .values({
      ...{ routeId: id, revision, parent, ...doer(), ...told },
      body: await storeShared(tx, route),
    })
    .execute();
}

import { IN_QUEUE, type ReceiptView } from "@hardline/contract";
import { readSheetBody } from "@hardline/core/sheet/sheetFile";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type Kysely, type RawBuilder } from "kysely";
import { unnamed } from "../blobs/collector";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";
import { doer } from "../people/acting";

/** Removes for good all that the shop has of a customer, down to the bytes. */
@Injectable()
export class RemovalService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** Whole, or not at all. @throws ProblemException while something of theirs is at a machine */
  async remove(customerId: string): Promise<ReceiptView> {
    return this.database.transaction().execute((tx) => this.removeAll(tx, customerId));
  }

  private async removeAll(tx: Kysely<Schema>, id: string): Promise<ReceiptView> {
    const customer = await tx
      .selectFrom("customers")
      .selectAll()
      .where("id", "=", id)
      .forUpdate()
      .executeTakeFirst();
    if (!customer) throw notFound("customer", id);
    const tickets = await tx
      .selectFrom("tickets")
      .select(["id", "number", "artworkId"])
      .where("customerId", "=", id)
      .orderBy("number")
      .forUpdate()
      .execute();
    const ticketIds = ids(tickets.map((t) => t.id));
    const routes = await tx
      .selectFrom("routes")
      .select("id")
      .where(sql<boolean>`ticket_id = any(${ticketIds})`)
      .forUpdate()
      .execute();
    const routeIds = ids(routes.map((r) => r.id));
    const sheets = await this.sheetsOf(
      tx,
      routes.map((r) => String(r.id)),
    );
    const sheetIds = ids(sheets.map((s) => s.id));
    const ofTheirs = sql<boolean>`(ticket_id = any(${ticketIds}) or route_id = any(${routeIds}) or sheet_id = any(${sheetIds}))`;
    await this.refuseAtWork(tx, ofTheirs);

    const parts = await namedParts(tx, routeIds);
    const photos = await this.photos(tx, id, routeIds);
    const artworkIds = ids([...tickets.map((t) => t.artworkId), ...photos.map((p) => p.artworkId)]);
    const blobs = await namedBlobs(tx, { routeIds, sheetIds, ofTheirs, artworkIds });

    for (const { id: sheetId, body, mine } of sheets) {
      if (body.pieces.every((p) => mine.has(p.routeId))) continue;
      // What is left of it is arranged anew: copies are named by the place of their piece.
      const left = { ...body, kept: [], pieces: body.pieces.filter((p) => !mine.has(p.routeId)) };
      await tx
        .updateTable("sheets")
        .set({
          ...{ body: JSON.stringify(left), placings: "[]", revisions: "{}", checks: "[]", checkedAs: null },
          version: sql`version + 1`,
        })
        .where("id", "=", sheetId)
        .execute();
    }
    const runs = await count(sql`delete from runs where ${ofTheirs}`, tx);
    const emptied = sheets.filter(({ body, mine }) => body.pieces.every((p) => mine.has(p.routeId)));
    await sql`delete from sheets where id = any(${ids(emptied.map((s) => s.id))})`.execute(tx);
    await sql`delete from strips where route_id = any(${routeIds})`.execute(tx);
    const files = await count(sql`delete from renders where route_id = any(${routeIds})`, tx);
    await sql`delete from renders where (wish->>'sheetId')::bigint = any(${sheetIds})`.execute(tx);
    const comments = await count(sql`delete from comments where ticket_id = any(${ticketIds})`, tx);
    const approvals = await count(sql`delete from approvals where ticket_id = any(${ticketIds})`, tx);
    await sql`delete from journal where customer_id = ${id} or ticket_id = any(${ticketIds}) or route_id = any(${routeIds})`.execute(
      tx,
    );
    const revisions = await count(sql`delete from route_revisions where route_id = any(${routeIds})`, tx);
    await sql`delete from routes where id = any(${routeIds})`.execute(tx);
    await sql`delete from tickets where id = any(${ticketIds})`.execute(tx);
    await sql`delete from things where body->>'photo' = any(${photos.map((p) => p.sha256)}::text[])`.execute(
      tx,
    );
    await sql`delete from photos where sha256 = any(${photos.map((p) => p.sha256)}::text[])`.execute(tx);
    await sql`update photos set customer_id = null where customer_id = ${id}`.execute(tx);
    const { rows: artworks } = await this.artworks(tx, artworkIds);
    await sql`delete from parts p where p.sha256 = any(${parts}::text[]) and not exists (
      select from named_elsewhere n where n.sha256 = p.sha256)`.execute(tx);
    const { rows: removed } = await sql<{ bytes: number }>`
      delete from blobs b where b.sha256 = any(${blobs}::text[]) and ${unnamed} returning bytes`.execute(tx);
    await sql`delete from left_over where what = 'blob' and not exists (select from blobs where sha256 = key)`.execute(
      tx,
    );
    await tx.deleteFrom("customers").where("id", "=", id).execute();
    const { personId } = doer();
    const by = personId
      ? await tx.selectFrom("people").select("name").where("id", "=", personId).executeTakeFirst()
      : undefined;
    return {
      ...{ customerId: id, name: customer.name, at: new Date().toISOString(), by: by?.name ?? "Hard Line" },
      ...{ tickets: tickets.map((t) => t.number), routes: routes.length, revisions, artworks },
      ...{ photos: photos.length, files, runs, comments, approvals, sheets: sheets.map((s) => s.name) },
      ...{ blobs: removed.length, bytes: removed.reduce((sum, b) => sum + Number(b.bytes), 0) },
    };
  }

  private async refuseAtWork(tx: Kysely<Schema>, ofTheirs: RawBuilder<boolean>): Promise<void> {
    const atWork = await tx
      .selectFrom("runs")
      .select(["name", "state"])
      .where(ofTheirs)
      .where("state", "in", [...IN_QUEUE, "preparing"])
      .limit(1)
      .executeTakeFirst();
    if (atWork)
      throw new ProblemException(
        409,
        "In use",
        `The run ${atWork.name} is ${atWork.state}. Let it end, or stop it, first.`,
      );
  }

  /** Sheets that pieces of routes are on. */
  private async sheetsOf(tx: Kysely<Schema>, routeIds: readonly string[]) {
    const mine = new Set(routeIds);
    const { rows } = await sql<{ id: string; name: string; body: object }>`
      select id, name, body from sheets s where exists (
        select from jsonb_array_elements(s.body->'pieces') p where p->>'routeId' = any(${[...mine]}::text[]))
      for update`.execute(tx);
    return rows.map(({ id, name, body }) => ({ id: String(id), name, mine, body: readSheetBody(body) }));
  }

  /** Their own photographs, but for those that others' prints are shown on. */
  private async photos(tx: Kysely<Schema>, id: string, routeIds: RawBuilder<unknown>) {
    const { rows } = await sql<{ sha256: string; artworkId: string }>`
      select sha256, artwork_id from photos p where customer_id = ${id}
        and not exists (
          select from route_revisions v where not v.route_id = any(${routeIds})
            and v.body::text like '%' || p.sha256 || '%')
        and not exists (
          select from named_elsewhere n join parts q on q.sha256 = n.sha256
            where q.body::text like '%' || p.sha256 || '%')`.execute(tx);
    return rows;
  }

  /** Artworks that no other ticket or photograph has. */
  private artworks(tx: Kysely<Schema>, artworkIds: RawBuilder<unknown>) {
    const unused = sql`select a.id from artworks a where a.id = any(${artworkIds})
      and not exists (select from tickets t where t.artwork_id = a.id)
      and not exists (select from photos p where p.artwork_id = a.id)
      and not exists (select from renders r where r.wish->>'artworkId' = a.id::text)`;
    return sql<{ name: string; sha256: string }>`
      with unused as materialized (${unused}),
        drawn as (delete from drawings where artwork_id in (select id from unused)),
        arrived as (delete from arrivals where artwork_id in (select id from unused)),
        halved as (delete from artwork_halves where artwork_id in (select id from unused))
      delete from artworks where id in (select id from unused) returning name, sha256`.execute(tx);
  }
}

const ids = (list: readonly (string | number)[]) => sql`${list.map(String)}::bigint[]`;

async function count(query: RawBuilder<unknown>, tx: Kysely<Schema>): Promise<number> {
  const { numAffectedRows } = await query.execute(tx);
  return Number(numAffectedRows ?? 0);
}

/** The parts that revisions of routes name, those within parts too; `named_elsewhere` has those that others name as well. */
async function namedParts(tx: Kysely<Schema>, routeIds: RawBuilder<unknown>): Promise<string[]> {
  const within = (bodies: RawBuilder<unknown>) => sql`
    with recursive named as (
      select distinct n #>> '{}' as sha256 from (${bodies}) b,
        jsonb_path_query(b.body, 'strict $.**."$part"', silent => true) n
      union
      select n #>> '{}' from named m join parts p on p.sha256 = m.sha256,
        jsonb_path_query(p.body, 'strict $.**."$part"', silent => true) n)
    select sha256 from named`;
  const own = sql`select body from route_revisions where route_id = any(${routeIds})`;
  const others = sql`select body from route_revisions where not route_id = any(${routeIds})`;
  await sql`create temporary table named_elsewhere on commit drop as ${within(others)}`.execute(tx);
  const { rows } = await sql<{ sha256: string }>`${within(own)}`.execute(tx);
  return rows.map((r) => r.sha256);
}

/** Every blob that what is removed names. */
async function namedBlobs(
  tx: Kysely<Schema>,
  of: {
    readonly routeIds: RawBuilder<unknown>;
    readonly sheetIds: RawBuilder<unknown>;
    readonly ofTheirs: RawBuilder<boolean>;
    readonly artworkIds: RawBuilder<unknown>;
  },
): Promise<string[]> {
  const { rows } = await sql<{ sha256: string }>`
    select unnest(array[sha256, file_sha256, pixels_sha256, thumbnail_sha256]) as sha256 from artworks where id = any(${of.artworkIds})
    union select sha256 from drawings where artwork_id = any(${of.artworkIds})
    union select sha256 from artwork_halves where artwork_id = any(${of.artworkIds})
    union select thumbnail_sha256 from route_revisions where route_id = any(${of.routeIds})
    union select picture_sha256 from strips where route_id = any(${of.routeIds})
    union select unnest(array[program_sha256, sent_sha256, burned_sha256, plan->'bitmap'->>'sha256']) from runs where ${of.ofTheirs}
    union select f->>'sha256' from renders r, jsonb_array_elements(r.files) f
      where r.route_id = any(${of.routeIds}) or (r.wish->>'sheetId')::bigint = any(${of.sheetIds})`.execute(
    tx,
  );
  return rows.flatMap((r) => (r.sha256 ? [r.sha256] : []));
}

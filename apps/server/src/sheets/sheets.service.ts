import { type NewSheet, type SaveSheet, type SheetPieceView, type SheetView } from "@hardline/contract";
import {
  checkSheet,
  nestPieces,
  readSheetBody,
  type Check,
  type Placing,
  type SheetBody,
  type SheetReach,
} from "@hardline/core";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type Selectable } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";
import { MachinesService } from "../machines/machines.service";

type Row = Selectable<Schema["sheets"]>;

/** Sheets of pieces. */
@Injectable()
export class SheetsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(MachinesService) private readonly machines: MachinesService,
  ) {}

  async list(): Promise<SheetView[]> {
    const rows = await this.database
      .selectFrom("sheets")
      .selectAll()
      .orderBy("id", "desc")
      .limit(200)
      .execute();
    return Promise.all(rows.map((row) => this.view(row)));
  }

  async get(id: string): Promise<SheetView> {
    const row = await this.database.selectFrom("sheets").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("sheet", id);
    return this.looked(row);
  }

  async create({ name, body }: NewSheet): Promise<SheetView> {
    const row = await this.database
      .insertInto("sheets")
      .values({ name, body: JSON.stringify(readSheetBody(body)) })
      .returningAll()
      .executeTakeFirstOrThrow();
    return this.view(row);
  }

  async save(
    id: string,
    { name, body, version, placings = [], revisions = {} }: SaveSheet,
  ): Promise<SheetView> {
    const read = readSheetBody(body);
    await this.oneMaterial(read);
    const row = await this.database
      .updateTable("sheets")
      .set((e) => ({
        ...{ name, body: JSON.stringify(read), version: e("version", "+", 1) },
        ...{ placings: JSON.stringify(placings), revisions: JSON.stringify(revisions) },
      }))
      .where("id", "=", id)
      .where("version", "=", version)
      .returningAll()
      .executeTakeFirst();
    if (row) return this.looked(row);
    const current = await this.get(id);
    throw new ProblemException(
      409,
      "Changed meanwhile",
      `Somebody else changed ${current.name} since it was opened here.`,
      {
        current,
      },
    );
  }

  async remove(id: string): Promise<void> {
    const { count } = await this.database
      .selectFrom("runs")
      .select(sql<number>`count(*)::int`.as("count"))
      .where("sheet_id", "=", id)
      .executeTakeFirstOrThrow();
    if (count > 0)
      throw new ProblemException(409, "In use", `${count} runs are of this sheet, and it stays.`);
    await this.database.deleteFrom("sheets").where("id", "=", id).execute();
  }

  /** What a sheet's machine reaches, and whether it reads marks. */
  async machineOf({
    machine: key,
  }: Pick<SheetBody, "machine">): Promise<{ reach?: SheetReach; readsMarks: boolean }> {
    const known = key ? (await this.machines.list()).find((m) => m.machine.key === key) : undefined;
    return { reach: known?.machine.margins, readsMarks: known?.machine.kind === "knife-cutter" };
  }

  /** Pieces of several tickets go on one sheet when they are of one material. */
  private async oneMaterial({ pieces }: SheetBody): Promise<void> {
    const materials = new Set(
      (await this.pieces(pieces.map((p) => p.routeId))).map((p) => p.material.trim().toLowerCase()),
    );
    if (materials.size > 1)
      throw new ProblemException(
        422,
        "Several materials",
        `The pieces are of ${[...materials].join(" and ")}; a sheet is of one material.`,
      );
  }

  private async pieces(routeIds: readonly string[]): Promise<SheetPieceView[]> {
    if (routeIds.length === 0) return [];
    const { rows } = await sql<{
      route_id: string;
      ticket_id: string;
      number: number;
      piece: string;
      material: string;
      name: string;
      revision: number;
      pieces: number;
    }>`
      select r.id as route_id, t.id as ticket_id, t.number, t.piece, t.material, v.body->>'name' as name, r.revision, t.pieces
      from routes r join tickets t on t.id = r.ticket_id
      join route_revisions v on v.route_id = r.id and v.revision = r.revision
      where r.id = any(${[...routeIds]}::bigint[])`.execute(this.database);
    return rows.map((r) => ({
      ...{ routeId: String(r.route_id), ticketId: String(r.ticket_id), ticket: r.number, piece: r.piece },
      ...{ material: r.material, route: r.name, revision: r.revision, wanted: r.pieces },
    }));
  }

  private async view({
    id,
    name,
    version,
    body,
    placings,
    revisions,
    checks,
    created_at,
  }: Row): Promise<SheetView> {
    const read = readSheetBody(body);
    const pieces = await this.pieces(read.pieces.map((p) => p.routeId));
    return {
      ...{ id: String(id), name, version, body: read, placings, revisions, pieces, checks },
      createdAt: created_at.toISOString(),
    };
  }

  /** A sheet looked at anew. What is found is kept, so that a list of sheets need not look at each. */
  private async looked(row: Row): Promise<SheetView> {
    const checks = await this.checks(readSheetBody(row.body), row.placings, row.revisions);
    if (JSON.stringify(checks) !== JSON.stringify(row.checks))
      await this.database
        .updateTable("sheets")
        .set({ checks: JSON.stringify(checks) })
        .where("id", "=", String(row.id))
        .where("version", "=", row.version)
        .execute();
    return this.view({ ...row, checks });
  }

  /** What the sheet is looked at for, as far as the outlines of its pieces are known. */
  private async checks(
    body: SheetBody,
    placings: readonly Placing[],
    revisions: Readonly<Record<string, number>>,
  ): Promise<Check[]> {
    const outlines = await Promise.all(
      body.pieces.map(({ routeId }) => this.outline(routeId, revisions[routeId], body.bleedMm)),
    );
    if (outlines.length === 0 || outlines.some((o) => !o)) return [];
    const counts = body.pieces.map((p) => p.count);
    const known = outlines.map((o) => ({ outline: Float64Array.from(o!.outline), box: o!.box }));
    const wanted = nestPieces(known, counts, body);
    const all = counts.reduce((sum, n) => sum + n, 0);
    const printed = outlines.some((o) => o!.printed);
    return checkSheet(wanted, placings, body, all, { ...(await this.machineOf(body)), printed });
  }

  private async outline(routeId: string, revision: number | undefined, bleedMm: number) {
    const row = await this.database
      .selectFrom("renders")
      .select("outcome")
      .where("kind", "=", "piece")
      .where("route_id", "=", routeId)
      .where("revision", "=", revision ?? 0)
      .where(sql`(wish->>'bleedMm')::float8`, "=", bleedMm)
      .where("state", "=", "done")
      .executeTakeFirst();
    return row?.outcome as
      | { outline: number[]; box: { x: number; y: number; width: number; height: number }; printed: boolean }
      | undefined;
  }
}

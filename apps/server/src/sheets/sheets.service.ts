import { type NewSheet, type SaveSheet, type SheetPieceView, type SheetView } from "@hardline/contract";
import { type Check } from "@hardline/core/inspect/check";
import { machineKindOf } from "@hardline/core/machine/machine";
import { type Rect } from "@hardline/core/raster/types";
import {
  checkCopies,
  readPlacings,
  readRevisions,
  readSheetBody,
  type SheetBody,
  type SheetReach,
} from "@hardline/core/sheet/sheetFile";
import { IntakeError } from "@hardline/intake";
import { Inject, Injectable } from "@nestjs/common";
import { sql, type Selectable } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";
import { Calculating } from "../calculating/calculating.service";
import { MachinesService, type KnownMachine } from "../machines/machines.service";
import { log } from "../log/log";

type Row = Selectable<Schema["sheets"]>;

/** Sheets of pieces. */
/** Sheets that a list has looked at, at most. */
const MOST_LOOKED_AT = 10;

@Injectable()
export class SheetsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(MachinesService) private readonly machines: MachinesService,
    @Inject(Calculating) private readonly calculating: Calculating,
  ) {}

  /** All of them, without the places of their copies: each may have thousands. */
  async list(): Promise<SheetView[]> {
    const rows = await this.database
      .selectFrom("sheets")
      .select(["id", "name", "version", "body", "checks", "checkedAs", "createdAt"])
      .select([
        sql<number>`jsonb_array_length(placings)`.as("placed"),
        sql<number>`coalesce((select max((p->>'sheet')::int) + 1 from jsonb_array_elements(placings) p), 0)`.as(
          "sheets",
        ),
      ])
      .orderBy("id", "desc")
      .limit(200)
      .execute();
    // Those that lie ready but could not be looked at yet, since their pieces were not made, are looked at now; nobody waits.
    const unseen = rows.filter((row) => row.placed > 0 && row.checks.length === 0).slice(0, MOST_LOOKED_AT);
    this.looking ??= this.lookAtAll(unseen.map((row) => String(row.id))).finally(() => (this.looking = null));
    // The pieces of all of them at once: a question for each would be hundreds.
    const bodies = rows.map((row) => readSheetBody(row.body));
    const known = new Map(
      (await this.pieces([...new Set(bodies.flatMap((body) => body.pieces.map((p) => p.routeId)))])).map(
        (piece) => [piece.routeId, piece],
      ),
    );
    return rows.map((row, k) => {
      const own = bodies[k].pieces.flatMap(({ routeId }) => known.get(routeId) ?? []);
      return viewOf({ ...row, placings: [], revisions: {} }, bodies[k], own, row);
    });
  }

  private looking: Promise<void> | null = null;

  private async lookAtAll(ids: readonly string[]): Promise<void> {
    for (const id of ids)
      await this.get(id).catch((error: unknown) => log.warn({ err: error, sheet: id }, "looking at a sheet"));
  }

  async get(id: string): Promise<SheetView> {
    const row = await this.database.selectFrom("sheets").selectAll().where("id", "=", id).executeTakeFirst();
    if (!row) throw notFound("sheet", id);
    return this.looked(row);
  }

  async create({ name, body }: NewSheet): Promise<SheetView> {
    const read = readSheetBody(body);
    checkCopies("kept", read.kept, read.pieces.length);
    await this.oneMaterial(read);
    const row = await this.database
      .insertInto("sheets")
      .values({ name, body: JSON.stringify(read) })
      .returningAll()
      .executeTakeFirstOrThrow();
    return this.view(row);
  }

  /** Everything is read, and the sheet looked at, before the first write, which is the only one. */
  async save(
    id: string,
    { name, body, version, placings: given = [], revisions: seen = {} }: SaveSheet,
  ): Promise<SheetView> {
    const read = readSheetBody(body);
    const [placings, revisions] = [readPlacings(given), readRevisions(seen)];
    checkCopies("kept", read.kept, read.pieces.length);
    checkCopies("placings", placings, read.pieces.length);
    await this.oneMaterial(read);
    const text = JSON.stringify(placings);
    const checks = await this.checks(version + 1, read, () => text, revisions);
    const row = await this.database
      .updateTable("sheets")
      .set((e) => ({
        ...{ name, body: JSON.stringify(read), version: e("version", "+", 1) },
        ...{ placings: text, revisions: JSON.stringify(revisions) },
        ...{ checks: JSON.stringify(checks.found), checkedAs: checks.as },
      }))
      .where("id", "=", id)
      .where("version", "=", version)
      .returning(["id", "name", "version", "body", "checks", "checkedAs", "createdAt"])
      .executeTakeFirst();
    if (row) return this.view({ ...row, placings, revisions });
    const current = await this.get(id);
    throw new ProblemException(
      409,
      "Changed meanwhile",
      `Somebody else changed ${current.name} since it was opened here.`,
      { current },
    );
  }

  async remove(id: string): Promise<void> {
    const { count } = await this.database
      .selectFrom("runs")
      .select(sql<number>`count(*)::int`.as("count"))
      .where("sheetId", "=", id)
      .executeTakeFirstOrThrow();
    if (count > 0)
      throw new ProblemException(409, "In use", `${count} runs are of this sheet, and it stays.`);
    await this.database.deleteFrom("sheets").where("id", "=", id).execute();
  }

  /** What a sheet's machine reaches, and whether it reads marks. */
  async machineOf({
    machine: key,
  }: Pick<SheetBody, "machine">): Promise<{ reach?: SheetReach; readsMarks: boolean }> {
    return reachOf(key ? await this.machineAt(key) : undefined);
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
      routeId: string;
      ticketId: string;
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
      ...{ routeId: String(r.routeId), ticketId: String(r.ticketId), ticket: r.number, piece: r.piece },
      ...{ material: r.material, route: r.name, revision: r.revision, wanted: r.pieces },
    }));
  }

  private async view(row: Row): Promise<SheetView> {
    const body = readSheetBody(row.body);
    return viewOf(row, body, await this.pieces(body.pieces.map((p) => p.routeId)));
  }

  /** A sheet looked at, anew only where something that the checks are made of has changed. What is found is kept. */
  private async looked(row: Row): Promise<SheetView> {
    const id = String(row.id);
    const checks = await this.checks(
      row.version,
      readSheetBody(row.body),
      () => JSON.stringify(row.placings),
      row.revisions,
      row,
    );
    if (checks.as !== row.checkedAs)
      await this.database
        .updateTable("sheets")
        .set({ checks: JSON.stringify(checks.found), checkedAs: checks.as })
        .where("id", "=", id)
        .where("version", "=", row.version)
        .execute();
    return this.view({ ...row, checks: checks.found as Check[] });
  }

  /**
   * What the sheet is looked at for, as far as the outlines of its pieces are known; in a process of its own.
   * @param placings  as JSON: a text is handed to another process in no time, ten thousand objects are not
   * @param known     as it was looked at before
   */
  private async checks(
    version: number,
    body: SheetBody,
    placings: () => string,
    revisions: Readonly<Record<string, number>>,
    known?: Pick<Row, "checks" | "checkedAs">,
  ): Promise<{ readonly found: readonly Check[]; readonly as: string }> {
    const made = await this.outlines(body, revisions);
    const machine = body.machine ? await this.machineAt(body.machine) : undefined;
    const as = JSON.stringify([version, made.map((m) => m?.id ?? null), machine?.version ?? null]);
    if (known?.checkedAs === as) return { found: known.checks, as };
    if (made.length === 0 || made.some((m) => !m)) return { found: [], as };
    const rows = await this.database
      .selectFrom("renders")
      .select(["id", "outcome"])
      .where("id", "in", [...new Set(made.map((m) => m!.id))])
      .execute();
    const outlines = made.map(
      (m) => rows.find((r) => String(r.id) === m!.id)!.outcome as unknown as PieceOutline,
    );
    const pieces = outlines.map(({ outline, box }) => ({ outline: Float64Array.from(outline), box }));
    const about = { ...reachOf(machine), printed: outlines.some((o) => o.printed) };
    try {
      return {
        found: await this.calculating.do("screen", "sheetChecks", {
          pieces,
          placings: placings(),
          body,
          ...about,
        }),
        as,
      };
    } catch (error) {
      if (!(error instanceof IntakeError)) throw error;
      // It is kept as it is: what cannot be looked at is told, and looked at again when it changes.
      return { found: [notLooked(error.message)], as };
    }
  }

  /** The newest outline of each piece, where it was made. */
  private async outlines(
    { pieces, bleedMm }: SheetBody,
    revisions: Readonly<Record<string, number>>,
  ): Promise<readonly ({ readonly id: string } | undefined)[]> {
    if (pieces.length === 0) return [];
    const rows = await this.database
      .selectFrom("renders")
      .select(["id", "routeId", "revision"])
      .where("kind", "=", "piece")
      .where("routeId", "in", [...new Set(pieces.map((p) => p.routeId))])
      .where(sql`(wish->>'bleedMm')::float8`, "=", bleedMm)
      .where("state", "=", "done")
      .orderBy("id", "desc")
      .execute();
    return pieces.map(({ routeId }) => {
      const row = rows.find((r) => String(r.routeId) === routeId && r.revision === (revisions[routeId] ?? 0));
      return row && { id: String(row.id) };
    });
  }

  private async machineAt(key: string): Promise<KnownMachine | undefined> {
    return (await this.machines.list()).find((m) => m.machine.key === key);
  }
}

/** A sheet as it is told; where its copies are counted already, they are not counted again. */
function viewOf(
  { id, name, version, placings, revisions, checks, createdAt }: Row,
  body: SheetBody,
  pieces: readonly SheetPieceView[],
  counted?: { readonly placed: number; readonly sheets: number },
): SheetView {
  const placed = counted?.placed ?? placings.length;
  const sheets = counted?.sheets ?? placings.reduce((most, p) => Math.max(most, p.sheet + 1), 0);
  return {
    ...{ id: String(id), name, version, body, placings, placed, sheets, revisions, pieces, checks },
    createdAt: createdAt.toISOString(),
  };
}

interface PieceOutline {
  readonly outline: readonly number[];
  readonly box: Rect;
  readonly printed: boolean;
}

const reachOf = (known: KnownMachine | undefined): { reach?: SheetReach; readsMarks: boolean } => ({
  reach: known?.machine.margins,
  readsMarks: Boolean(known && machineKindOf(known.machine).marks),
});

const notLooked = (why: string): Check => ({
  ...{ id: "sheetOverlap", level: "look", value: 0, unit: "pairs", places: [] },
  text: "The sheet could not be looked at",
  detail: why,
});

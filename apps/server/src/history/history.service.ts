import {
  type ApprovalView,
  type ByView,
  type OldRouteView,
  type RevisionsView,
  type RevisionView,
  type RouteView,
} from "@hardline/contract";
import { changesBetween, type RouteChange } from "@hardline/core/route/changes";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { notFound, ProblemException } from "../http/problems";
import { doer } from "../people/acting";
import { byOf } from "../people/by";
import { RoutesService } from "../routes/routes.service";

/** So many revisions are listed at once. */
const AT_ONCE = 40;
/** Of those that were saved before changes were written down, so many are compared for one answer. */
const MOST_COMPARED = 40;

interface Row {
  readonly revision: number;
  readonly parent: number | null;
  readonly createdAt: Date;
  readonly by: ByView;
  readonly name: string | null;
  readonly changes: RouteChange[] | null;
  readonly broughtBack: number | null;
  readonly stands: boolean;
  readonly handedOver: boolean;
  readonly thumbnail: boolean;
  readonly looks: number | null;
  readonly stops: number | null;
}

/** What became of a route, revision by revision. */
@Injectable()
export class HistoryService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(RoutesService) private readonly routes: RoutesService,
  ) {}

  /** @param asked  of one person, with a change of one stage, before a revision */
  async list(
    routeId: string,
    asked: { readonly person?: string; readonly stage?: string; readonly before?: number },
  ): Promise<RevisionsView> {
    const { rows } = await sql<Row>`
      select v.revision, v.parent, v.created_at, ${byOf("v")} as by, v.name, v.changes, v.brought_back,
        v.revision = r.revision as stands, v.thumbnail_sha256 is not null as thumbnail, v.looks, v.stops,
        exists (select from renders d where d.route_id = r.id and d.revision = v.revision
          and d.state = 'done' and d.kind = 'hand over') as handed_over
      from routes r join route_revisions v on v.route_id = r.id
      where r.id = ${routeId}
        ${asked.person === undefined ? sql`` : sql`and v.person_id = ${asked.person}`}
        ${asked.stage === undefined ? sql`` : sql`and v.changes @> ${JSON.stringify([{ stage: asked.stage }])}::jsonb`}
        ${asked.before === undefined ? sql`` : sql`and v.revision < ${asked.before}`}
      order by v.revision desc limit ${AT_ONCE + 1}`.execute(this.database);
    if (rows.length === 0) await this.routes.get(routeId); // there must be one
    const shown = rows.slice(0, AT_ONCE);
    const approvals = await this.approvals({ routeId });
    const revisions: RevisionView[] = [];
    let compared = 0;
    for (const { thumbnail, createdAt, ...row } of shown) {
      const known =
        row.changes ??
        (row.parent === null || ++compared > MOST_COMPARED ? [] : await this.compare(routeId, row));
      revisions.push({
        ...row,
        changes: known,
        at: createdAt.toISOString(),
        approvals: approvals.filter((a) => a.revision === row.revision),
        thumbnailUrl: thumbnail ? `/api/routes/${routeId}/revisions/${row.revision}/thumbnail` : null,
      });
    }
    return {
      revisions,
      next: rows.length > AT_ONCE ? shown.at(-1)!.revision : null,
      people: await this.people(routeId),
    };
  }

  async old(routeId: string, revision: number): Promise<OldRouteView> {
    return { revision, route: await this.routes.atRevision(routeId, revision) };
  }

  async thumbnail(routeId: string, revision: number): Promise<string> {
    const row = await this.database
      .selectFrom("routeRevisions")
      .select("thumbnailSha256")
      .where("routeId", "=", routeId)
      .where("revision", "=", revision)
      .executeTakeFirst();
    if (!row?.thumbnailSha256) throw notFound("picture of revision", `${revision} of route ${routeId}`);
    return row.thumbnailSha256;
  }

  async name(routeId: string, revision: number, name: string): Promise<void> {
    const { numUpdatedRows } = await this.database
      .updateTable("routeRevisions")
      .set({ name: name.trim() || null })
      .where("routeId", "=", routeId)
      .where("revision", "=", revision)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) throw notFound("revision", `${revision} of route ${routeId}`);
  }

  bringBack(routeId: string, revision: number, version: number): Promise<RouteView> {
    return this.routes.bringBack(routeId, revision, version);
  }

  /** A customer's yes, written down by whoever heard it. */
  async approve(routeId: string, revision: number, who: string): Promise<ApprovalView> {
    const { ticketId } = await this.routes.get(routeId);
    await this.routes.atRevision(routeId, revision);
    const { id } = await this.database
      .insertInto("approvals")
      .values({ ticketId, routeId, revision, who, ...doer() })
      .returning("id")
      .executeTakeFirstOrThrow();
    return (await this.approvals({ routeId })).find((a) => a.id === String(id))!;
  }

  async approvals(of: { readonly routeId: string }): Promise<ApprovalView[]> {
    const { rows } = await sql<{ id: string; revision: number; who: string; by: ByView; createdAt: Date }>`
      select a.id, a.revision, a.who, ${byOf("a")} as by, a.created_at from approvals a
      where a.route_id = ${of.routeId} order by a.id`.execute(this.database);
    return rows.map(({ id, createdAt, ...rest }) => ({
      ...{ ...rest, id: String(id), routeId: of.routeId, at: createdAt.toISOString() },
    }));
  }

  private async people(routeId: string): Promise<ByView[]> {
    const { rows } = await sql<ByView>`
      select distinct p.id::text, p.name from route_revisions v join people p on p.id = v.person_id
      where v.route_id = ${routeId} order by p.name limit 100`.execute(this.database);
    return rows;
  }

  private async compare(
    routeId: string,
    { revision, parent }: Pick<Row, "revision" | "parent">,
  ): Promise<RouteChange[]> {
    try {
      const [was, now] = [
        await this.routes.atRevision(routeId, parent!),
        await this.routes.atRevision(routeId, revision),
      ];
      return changesBetween(was, now);
    } catch (error) {
      // One that was written in a form no longer read says nothing of itself.
      if (error instanceof ProblemException) throw error;
      return [];
    }
  }
}

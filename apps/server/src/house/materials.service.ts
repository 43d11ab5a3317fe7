import { type CurveBody, type MaterialBody, type MaterialView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { Database } from "../database/database.module";
import { notFound, ProblemException } from "../http/problems";

/** What the shop knows of its materials. */
@Injectable()
export class MaterialsService {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** All of them, by name, each with how many routes on the board are for it. */
  async list(): Promise<MaterialView[]> {
    return this.rows(sql`true`);
  }

  async get(key: string): Promise<MaterialView> {
    const [found] = await this.rows(sql`m.key = ${key}`);
    if (!found) throw notFound("material", key);
    return found;
  }

  async create(body: MaterialBody): Promise<MaterialView> {
    const key = keyFrom(body.name);
    if (!key)
      throw new ProblemException(
        400,
        "Not valid",
        `name is ${JSON.stringify(body.name)}; it needs a letter or digit`,
      );
    const { rows } = await sql`
      insert into materials (key, body) values (${key}, ${JSON.stringify(body)}::jsonb)
      on conflict do nothing returning key`.execute(this.database);
    if (rows.length === 0)
      throw new ProblemException(409, "Known already", `There is a material ${key} already.`);
    return this.get(key);
  }

  async save(key: string, version: number, body: MaterialBody): Promise<MaterialView> {
    const { numAffectedRows } = await sql`
      update materials set body = ${JSON.stringify(body)}::jsonb, version = version + 1
      where key = ${key} and version = ${version}`.execute(this.database);
    if (numAffectedRows === 1n) return this.get(key);
    const current = await this.get(key);
    throw new ProblemException(
      409,
      "Changed meanwhile",
      `Somebody else changed ${current.name} since it was opened here.`,
      { current },
    );
  }

  /** One that routes on the board are for stays. */
  async remove(key: string): Promise<void> {
    const { inUse, name } = await this.get(key);
    if (inUse > 0)
      throw new ProblemException(
        409,
        "In use",
        `${name} is in use on ${inUse} ${inUse === 1 ? "route" : "routes"} and stays.`,
      );
    await this.database.deleteFrom("materials").where("key", "=", key).execute();
  }

  private async rows(where: ReturnType<typeof sql>): Promise<MaterialView[]> {
    const { rows } = await sql<{
      key: string;
      version: number;
      body: MaterialBody;
      inUse: number;
      curve: CurveBody | null;
      curveVersion: number;
      curveAt: Date;
    }>`
      select m.key, m.version, m.body, coalesce(u.count, 0)::int as in_use,
        c.body as curve, c.version as curve_version, c.created_at as curve_at
      from materials m
      left join lateral (
        select * from curves c where c.material_key = m.key order by c.version desc limit 1
      ) c on true
      left join (
        select v.body->>'material' as key, count(*) as count
        from routes r
        join route_revisions v on v.route_id = r.id and v.revision = r.revision
        join tickets t on t.id = r.ticket_id and (t.archived_at is not null) = false -- as the index has it
        group by 1
      ) u on u.key = m.key
      where ${where}
      order by lower(m.body->>'name')`.execute(this.database);
    return rows.map(({ key, version, body, inUse, curve, curveVersion, curveAt }) => ({
      ...{ ...body, key, version, inUse },
      curve: curve && { ...curve, version: curveVersion, createdAt: curveAt.toISOString() },
    }));
  }
}

/** "Glass, through resist" is glass-through-resist in route files. */
const keyFrom = (name: string): string =>
  name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 60)
    .replace(/-+$/, "");

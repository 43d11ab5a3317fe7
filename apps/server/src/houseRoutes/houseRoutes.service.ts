import { type HouseRouteView, type NewHouseRoute } from "@hardline/contract";
import { readRoute } from "@hardline/core/route/route";
import { Inject, Injectable } from "@nestjs/common";
import { type Kysely } from "kysely";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound, ProblemException } from "../http/problems";

/** Routes that the shop keeps to start tickets from. */
@Injectable()
export class HouseRoutesService {
  constructor(@Inject(Database) private readonly database: Database) {}

  async list(): Promise<HouseRouteView[]> {
    const rows = await this.database.selectFrom("houseRoutes").selectAll().orderBy("name").execute();
    return rows.map(viewOf);
  }

  async create({ name, route }: NewHouseRoute): Promise<HouseRouteView> {
    const row = await this.database
      .insertInto("houseRoutes")
      .values({ name, body: JSON.stringify(readRoute({ ...route, name })) })
      .onConflict((c) => c.column("name").doNothing())
      .returningAll()
      .executeTakeFirst();
    if (!row) throw new ProblemException(409, "Known already", `There is a house route ${name} already.`);
    return viewOf(row);
  }

  async remove(id: string): Promise<void> {
    const { numDeletedRows } = await this.database
      .deleteFrom("houseRoutes")
      .where("id", "=", id)
      .executeTakeFirst();
    if (numDeletedRows === 0n) throw notFound("house route", id);
  }
}

export async function houseRoute(db: Kysely<Schema>, id: string): Promise<HouseRouteView> {
  const row = await db.selectFrom("houseRoutes").selectAll().where("id", "=", id).executeTakeFirst();
  if (!row) throw notFound("house route", id);
  return viewOf(row);
}

interface Row {
  readonly id: string;
  readonly name: string;
  readonly body: object;
  readonly createdAt: Date;
}

const viewOf = ({ id, name, body, createdAt }: Row): HouseRouteView => ({
  id: String(id),
  name,
  route: readRoute(body),
  createdAt: createdAt.toISOString(),
});

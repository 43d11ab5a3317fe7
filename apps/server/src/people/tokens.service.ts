import { type NewToken, type NewTokenView, type TokenView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { createHash, randomBytes } from "node:crypto";
import { Database } from "../database/database.module";
import { notFound } from "../http/problems";
import { doer } from "./acting";
import { Identify } from "./identify";

/** What programs send to be let in. Kept is what cannot be turned back; a token has more bits than anybody tries. */
@Injectable()
export class TokensService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(Identify) private readonly identify: Identify,
  ) {}

  async list(): Promise<TokenView[]> {
    return this.views();
  }

  async add({ name, scopes }: NewToken): Promise<NewTokenView> {
    const secret = `hard_line_${randomBytes(32).toString("base64url")}`;
    const { id } = await this.database
      .insertInto("tokens")
      .values({
        name,
        scopes: JSON.stringify(scopes),
        sha256: createHash("sha256").update(secret).digest("hex"),
        madeBy: doer().personId!,
      })
      .returning("id")
      .executeTakeFirstOrThrow();
    const [view] = await this.views(String(id));
    return { ...view, secret };
  }

  async remove(id: string): Promise<TokenView> {
    const [view] = await this.views(id);
    if (!view) throw notFound("token", id);
    await this.database.updateTable("tokens").set({ removedAt: new Date() }).where("id", "=", id).execute();
    this.identify.forget({ tokenId: id });
    return view;
  }

  private async views(id?: string): Promise<TokenView[]> {
    const rows = await this.database
      .selectFrom("tokens as t")
      .innerJoin("people as p", "p.id", "t.madeBy")
      .select(["t.id", "t.name", "t.scopes", "t.usedAt", "t.createdAt", "p.name as madeBy"])
      .where("t.removedAt", "is", null)
      .$if(id !== undefined, (q) => q.where("t.id", "=", id!))
      .orderBy("t.createdAt")
      .execute();
    return rows.map(({ id: own, usedAt, createdAt, ...rest }) => ({
      ...{ ...rest, id: String(own) },
      ...{ usedAt: usedAt?.toISOString() ?? null, createdAt: createdAt.toISOString() },
    }));
  }
}

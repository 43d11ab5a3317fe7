import { type FontView } from "@hardline/contract";
import { type FontSource } from "@hardline/core/letters/shelf";
import { SHIPPED_FONTS, shippedFontOf } from "@hardline/core/letters/shipped";
import { shippedFont } from "@hardline/fonts";
import { Inject, Injectable } from "@nestjs/common";
import { type Selectable } from "kysely";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { Decoding } from "../decoding/decoding.service";
import { notFound, ProblemException } from "../http/problems";

/** So many fonts a shop may have of its own. */
const MOST_FONTS = 500;

/** The fonts that words can be set in: those that ship, and the shop's own. */
@Injectable()
export class FontsService implements FontSource {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(Decoding) private readonly decoding: Decoding,
  ) {}

  async list(): Promise<FontView[]> {
    const own = await this.database
      .selectFrom("fonts")
      .selectAll()
      .where("retiredAt", "is", null)
      .orderBy("name")
      .orderBy("sha256")
      .execute();
    return [...SHIPPED, ...own.map(viewOf)];
  }

  /** Takes a font in, once it was read in a process of its own. The same file again is the same font. @throws IntakeError */
  async add(file: string, sha256: string, bytes: number): Promise<FontView> {
    const { count } = await this.database
      .selectFrom("fonts")
      .select((q) => q.fn.countAll<string>().as("count"))
      .where("retiredAt", "is", null)
      .executeTakeFirstOrThrow();
    if (Number(count) >= MOST_FONTS)
      throw new ProblemException(
        409,
        "Too many fonts",
        `The shop has ${count} fonts of its own; ${MOST_FONTS} are allowed.`,
      );
    const { name, isLines, letters } = await this.decoding.font(file);
    await this.blobs.putFile(file, MEDIA_TYPE);
    const row = await this.database
      .insertInto("fonts")
      .values({ sha256, name, isLines, letters, bytes })
      .onConflict((c) => c.column("sha256").doUpdateSet({ retiredAt: null }))
      .returningAll()
      .executeTakeFirstOrThrow();
    return viewOf(row);
  }

  /** No longer offered. Routes that have words in it keep it. */
  async retire(key: string): Promise<void> {
    const { numUpdatedRows } = await this.database
      .updateTable("fonts")
      .set({ retiredAt: new Date() })
      .where("sha256", "=", key)
      .where("retiredAt", "is", null)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) throw notFound("font of the shop's own", key);
  }

  /** A font's file, retired or not. @throws ProblemException when there is none */
  bytes = async (key: string): Promise<Uint8Array> => {
    if (shippedFontOf(key)) return shippedFont(key);
    const row = await this.database
      .selectFrom("fonts")
      .select("sha256")
      .where("sha256", "=", key)
      .executeTakeFirst();
    if (!row) throw notFound("font", key);
    return this.blobs.get(key);
  };
}

export const MEDIA_TYPE = "font/sfnt";

const SHIPPED: readonly FontView[] = SHIPPED_FONTS.map(({ key, title, name, licence }) => ({
  ...{ key, title, name, licence },
  ...{ ships: true, isLines: key === "engraver", bytes: 0 },
}));

const viewOf = ({ sha256, name, isLines, bytes }: Selectable<Schema["fonts"]>): FontView => ({
  ...{ key: sha256, title: name, name, licence: null },
  ...{ ships: false, isLines, bytes },
});

import { type NewStrip, type StripView } from "@hardline/contract";
import { Inject, Injectable } from "@nestjs/common";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { notFound, ProblemException } from "../http/problems";

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** Test strips that were kept on a ticket. */
@Injectable()
export class StripsService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async list(ticketId: string): Promise<StripView[]> {
    const rows = await this.database
      .selectFrom("strips as s")
      .innerJoin("routes as r", "r.id", "s.routeId")
      .selectAll("s")
      .where("r.ticketId", "=", ticketId)
      .orderBy("s.id", "desc")
      .execute();
    return rows.map((row) => ({
      id: String(row.id),
      routeId: String(row.routeId),
      revision: row.revision,
      title: row.title,
      labels: row.labels,
      pictureUrl: `/api/strips/${row.id}/picture`,
      createdAt: row.createdAt.toISOString(),
    }));
  }

  async create(ticketId: string, strip: NewStrip): Promise<StripView> {
    const { routeId, revision, title, labels, picture } = strip;
    const bytes = Buffer.from(picture, "base64");
    if (!bytes.subarray(0, PNG.length).equals(PNG))
      throw new ProblemException(400, "Not valid", "picture is no PNG; allowed: a PNG in base64");
    const known = await this.database
      .selectFrom("routeRevisions as v")
      .innerJoin("routes as r", "r.id", "v.routeId")
      .select("r.id")
      .where("r.id", "=", routeId)
      .where("r.ticketId", "=", ticketId)
      .where("v.revision", "=", revision)
      .executeTakeFirst();
    if (!known) throw notFound("revision", `${revision} of route ${routeId} on ticket ${ticketId}`);
    const pictureSha256 = await this.blobs.put(bytes, "image/png");
    await this.database
      .insertInto("strips")
      .values({ routeId, revision, title, labels: JSON.stringify(labels), pictureSha256 })
      .execute();
    return (await this.list(ticketId))[0];
  }

  async remove(id: string): Promise<void> {
    const { numDeletedRows } = await this.database
      .deleteFrom("strips")
      .where("id", "=", id)
      .executeTakeFirst();
    if (numDeletedRows === 0n) throw notFound("test strip", id);
  }

  async picture(id: string): Promise<string> {
    const row = await this.database
      .selectFrom("strips")
      .select("pictureSha256")
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("test strip", id);
    return row.pictureSha256;
  }
}

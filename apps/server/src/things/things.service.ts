import {
  type NewPlace,
  type NewThing,
  type PhotoView,
  type PlaceView,
  type ThingView,
} from "@hardline/contract";
import { type PhotoSource } from "@hardline/core/mockUp/photos";
import { readPhotoThing } from "@hardline/core/stage/mockUp/settings";
import { Inject, Injectable } from "@nestjs/common";
import { ArtworksService } from "../artworks/artworks.service";
import { Database } from "../database/database.module";
import { notFound, ProblemException } from "../http/problems";

/** So many things, and so many places, a shop may have of its own. */
const MOST = 500;
/** Photographs of more pixels than this say no more of a thing. */
const MOST_PIXELS = 60e6;

/** The shop's own things, the photographs that they are on, and its own places for prints. */
@Injectable()
export class ThingsService implements PhotoSource {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
  ) {}

  /** Keeps an artwork that was taken in as a photograph of a thing. The same again is the same photograph. */
  async keepPhoto(artworkId: string, ticketId?: string): Promise<PhotoView> {
    const { id, sha256, vector, width, height, pages } = await this.artworks.row(artworkId);
    const refuse = (why: string): never => {
      throw new ProblemException(400, "Not a photograph", why);
    };
    if (vector || pages > 1)
      refuse("A photograph of one thing is wanted; this is a drawing, or has several pages.");
    if (width * height > MOST_PIXELS)
      refuse(`It has ${width} x ${height} pixels; ${MOST_PIXELS / 1e6} million or less are taken.`);
    await this.database
      .insertInto("photos")
      .values((q) => ({
        ...{ sha256: sha256.slice(0, 64), artworkId: id },
        // Sent for a ticket, it is its customer's own.
        customerId: q
          .selectFrom("tickets")
          .select("customerId")
          .where("id", "=", ticketId ?? null),
      }))
      .onConflict((c) => c.column("sha256").doNothing())
      .execute();
    return this.photoView(sha256.slice(0, 64));
  }

  async photoView(key: string): Promise<PhotoView> {
    const row = await this.database
      .selectFrom("photos")
      .selectAll()
      .where("sha256", "=", key)
      .executeTakeFirst();
    if (!row) throw notFound("photograph", key);
    const { id, name, width, height } = await this.artworks.row(String(row.artworkId));
    return { key, artworkId: String(id), name, width, height };
  }

  photo = async (key: string) => {
    const { artworkId } = await this.photoView(key);
    return (await this.artworks.source(artworkId)).pixels();
  };

  async things(): Promise<ThingView[]> {
    const rows = await this.database.selectFrom("things").selectAll().orderBy("name").execute();
    return rows.map(({ id, name, body }) => ({ id: String(id), name, thing: readPhotoThing(body) }));
  }

  /** A thing of the same name takes the place of the one before. */
  async keepThing({ name, thing }: NewThing): Promise<ThingView> {
    const read = readPhotoThing({ ...thing, name });
    await this.photoView(read.photo); // there must be one
    await this.roomFor("things");
    const body = JSON.stringify(read);
    const { id } = await this.database
      .insertInto("things")
      .values({ name, body })
      .onConflict((c) => c.column("name").doUpdateSet({ body }))
      .returning("id")
      .executeTakeFirstOrThrow();
    return { id: String(id), name, thing: read };
  }

  async removeThing(id: string): Promise<void> {
    const { numDeletedRows } = await this.database
      .deleteFrom("things")
      .where("id", "=", id)
      .executeTakeFirst();
    if (numDeletedRows === 0n) throw notFound("thing", id);
  }

  async places(): Promise<PlaceView[]> {
    const rows = await this.database
      .selectFrom("places")
      .selectAll()
      .orderBy("area")
      .orderBy("name")
      .execute();
    return rows.map(({ id, name, area, xMm, yMm }) => ({ id: String(id), name, area, at: [xMm, yMm] }));
  }

  async keepPlace({ name, area, at: [xMm, yMm] }: NewPlace): Promise<PlaceView> {
    await this.roomFor("places");
    const { id } = await this.database
      .insertInto("places")
      .values({ name, area, xMm, yMm })
      .onConflict((c) => c.columns(["area", "name"]).doUpdateSet({ xMm, yMm }))
      .returning("id")
      .executeTakeFirstOrThrow();
    return { id: String(id), name, area, at: [xMm, yMm] };
  }

  async removePlace(id: string): Promise<void> {
    const { numDeletedRows } = await this.database
      .deleteFrom("places")
      .where("id", "=", id)
      .executeTakeFirst();
    if (numDeletedRows === 0n) throw notFound("place", id);
  }

  private async roomFor(table: "things" | "places"): Promise<void> {
    const { count } = await this.database
      .selectFrom(table)
      .select((q) => q.fn.countAll<string>().as("count"))
      .executeTakeFirstOrThrow();
    if (Number(count) >= MOST)
      throw new ProblemException(409, "Too many", `The shop has ${count} of them; ${MOST} are allowed.`);
  }
}

import { type ArtworkView } from "@hardline/contract";
import { readArtwork, readPng, readPngRows, type ArtworkSource, type Rgba } from "@hardline/core";
import { takeIn, type Intake } from "@hardline/intake";
import { Inject, Injectable } from "@nestjs/common";
import { type Selectable } from "kysely";
import { pipeline, Readable } from "node:stream";
import { setImmediate as nextTurn } from "node:timers/promises";
import { createInflate } from "node:zlib";
import sharp from "sharp";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { notFound } from "../http/problems";

export type ArtworkRow = Selectable<Schema["artworks"]>;

const THUMBNAIL = 320;

@Injectable()
export class ArtworksService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  /** Keeps the file byte for byte, and its picture decoded once. The same file again is the same artwork. */
  async add(bytes: Uint8Array, name: string): Promise<ArtworkView> {
    const intake = await takeIn(bytes);
    const { facts, kind } = intake;
    const known = await this.bySha(facts.sha256);
    if (known?.reading) return viewOf(known);
    const picture = await intake.pixels(facts.vector ? Math.min(facts.width, 1200) : undefined);
    const reading = readArtwork(picture, facts);
    if (known) {
      await this.database
        .updateTable("artworks")
        .set({ reading: JSON.stringify(reading) })
        .where("id", "=", known.id)
        .execute();
      return viewOf({ ...known, reading });
    }
    const pixels = facts.vector ? null : await this.blobs.put(await losslessPng(picture), "image/png");
    const thumbnail = await this.blobs.put(await thumbnailOf(picture), "image/png");
    await this.blobs.put(bytes, kind.mediaType);
    await this.database
      .insertInto("artworks")
      .values({
        sha256: facts.sha256,
        name: cleanName(name, kind.extension),
        kind: kind.name,
        media_type: kind.mediaType,
        bytes: bytes.length,
        width: facts.width,
        height: facts.height,
        vector: facts.vector,
        notes: JSON.stringify(intake.notes),
        pixels_sha256: pixels,
        thumbnail_sha256: thumbnail,
        reading: JSON.stringify(reading),
      })
      .onConflict((c) => c.column("sha256").doNothing())
      .execute();
    return viewOf((await this.bySha(facts.sha256))!);
  }

  async row(id: string): Promise<ArtworkRow> {
    const row = await this.database
      .selectFrom("artworks")
      .selectAll()
      .where("id", "=", id)
      .executeTakeFirst();
    if (!row) throw notFound("artwork", id);
    return row;
  }

  /** The artwork for the runner, its pixels from the picture decoded on arrival. */
  async source(id: string): Promise<ArtworkSource> {
    const { sha256, width, height, vector, pixels_sha256 } = await this.row(id);
    const facts = { sha256, width, height, vector };
    if (!pixels_sha256) return { facts, pixels: (drawWidth) => this.draw(sha256, drawWidth) };
    // Straight from the database's chunks: neither the file nor the picture is ever held twice.
    const file = () => this.blobs.stream(pixels_sha256);
    return {
      facts,
      pixels: () => readPng(file(), { inflate, pause: nextTurn }),
      rows: (begin, pause) => readPngRows(file(), begin, { inflate, pause }),
    };
  }

  /** Lossless PNG of the picture; artwork made of shapes is drawn at the width asked for. */
  async pixelsPng(id: string, drawWidth?: number): Promise<Readable> {
    const row = await this.row(id);
    return row.pixels_sha256
      ? this.blobs.stream(row.pixels_sha256)
      : Readable.from([await losslessPng(await this.draw(row.sha256, drawWidth))]);
  }

  private async draw(sha256: string, drawWidth?: number): Promise<Rgba> {
    const intake: Intake = await takeIn(await this.blobs.get(sha256));
    return intake.pixels(drawWidth);
  }

  private bySha(sha256: string): Promise<ArtworkRow | undefined> {
    return this.database.selectFrom("artworks").selectAll().where("sha256", "=", sha256).executeTakeFirst();
  }
}

export function viewOf(row: ArtworkRow): ArtworkView {
  const { id, name, sha256, kind, bytes, width, height, vector, notes, reading } = row;
  return { id: String(id), name, sha256, kind, bytes, width, height, vector, notes, reading };
}

/** A file name without folders and control characters, with the ending its content has. */
function cleanName(name: string, extension: string): string {
  const base = name
    .replace(/^.*[\\/]/, "")
    .replace(/[\u0000-\u001f"]/g, "")
    .trim()
    .slice(0, 120);
  const stem = base.replace(/\.[A-Za-z0-9]{1,5}$/, "") || "artwork";
  const given = base.slice(stem.length + 1).toLowerCase();
  const same =
    given === extension ||
    (given === "jpeg" && extension === "jpg") ||
    (given === "tiff" && extension === "tif");
  return `${stem}.${same ? given : extension}`;
}

const rawOf = ({ width, height }: Rgba) => ({ raw: { width, height, channels: 4 as const } });

async function losslessPng(picture: Rgba): Promise<Buffer> {
  let alpha = 255;
  for (let i = 3; i < picture.data.length; i += 4) alpha &= picture.data[i];
  const image = sharp(picture.data, { ...rawOf(picture), limitInputPixels: false });
  return (alpha === 255 ? image.removeAlpha() : image)
    .png({ compressionLevel: 2, adaptiveFiltering: true })
    .toBuffer();
}

/** What fails on the way in fails what comes out. */
const inflate = (data: AsyncIterable<Uint8Array>): AsyncIterable<Uint8Array> =>
  pipeline(data, createInflate({ chunkSize: 1 << 18 }), () => undefined);

function thumbnailOf(picture: Rgba): Promise<Buffer> {
  return sharp(picture.data, { ...rawOf(picture), limitInputPixels: false })
    .resize(THUMBNAIL, THUMBNAIL, { fit: "inside", withoutEnlargement: true })
    .png()
    .toBuffer();
}

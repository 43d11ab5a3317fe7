import { type ArtworkPaths, type ArtworkView, type PageView } from "@hardline/contract";
import { readPng, readPngRows } from "@hardline/core/format/readPng";
import { fingerprint } from "@hardline/core/raster/fingerprint";
import { halvesKept } from "@hardline/core/raster/keptHalves";
import { type ArtworkSource } from "@hardline/core/route/source";
import { FIRST, IntakeError, partWords, type Part } from "@hardline/intake";
import { Inject, Injectable } from "@nestjs/common";
import { type Selectable } from "kysely";
import { createWriteStream } from "node:fs";
import { readFile, rm, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { pipeline as pipe, type Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import { setImmediate as nextTurn } from "node:timers/promises";
import { createInflate } from "node:zlib";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";
import { Decoding } from "../decoding/decoding.service";
import { type Taken } from "../decoding/protocol";
import { notFound, ProblemException } from "../http/problems";
import { type Progress } from "../processes/lane";

export type ArtworkRow = Selectable<Schema["artworks"]>;

/** Pixels across a page's small picture. */
const PAGE_PICTURE = 320;

/** A file as it arrived: where it lies, how long it is and its fingerprint. */
export interface Arrived {
  readonly path: string;
  readonly bytes: number;
  readonly sha256: string;
}

@Injectable()
export class ArtworksService {
  /** Drawings being made, so that two who want the same wait for one. */
  private readonly drawing = new Map<string, Promise<string>>();
  private readonly halving = new Map<string, Promise<void>>();

  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(Decoding) private readonly decoding: Decoding,
  ) {}

  /** Keeps the file byte for byte, and its picture decoded once. The same file again is the same artwork. */
  async add(arrived: Arrived, name: string): Promise<ArtworkView> {
    return this.addPart(arrived, name, FIRST);
  }

  /** The same, if that is quick. @returns nothing for a picture so large that it takes long */
  async addIfQuick(arrived: Arrived, name: string): Promise<ArtworkView | null> {
    const of = { sha256: arrived.sha256, part: FIRST };
    return this.keep(arrived, name, FIRST, (path, folder) => this.decoding.take(path, folder, of, true));
  }

  /** The same, of one that is known to be large, told how far it is. */
  async addLarge(arrived: Arrived, name: string, told: (how: Progress) => void): Promise<ArtworkView> {
    const of = { sha256: arrived.sha256, part: FIRST };
    const take = (path: string, folder: string) => this.decoding.take(path, folder, of, told);
    return (await this.keep(arrived, name, FIRST, take, told))!;
  }

  private async addPart(arrived: Arrived, name: string, part: Part): Promise<ArtworkView> {
    const of = { sha256: arrived.sha256, part };
    return (await this.keep(arrived, name, part, (path, folder) => this.decoding.take(path, folder, of)))!;
  }

  /** Pages of the file that an artwork is of. */
  pages(id: string): Promise<readonly PageView[]> {
    return this.withFile(id, (path, { fileSha256 }) => this.decoding.pages(path, fileSha256));
  }

  /** Paths that an artwork made of shapes has of its own. */
  paths(id: string): Promise<ArtworkPaths> {
    return this.withFile(id, (path, row) =>
      this.decoding.paths(path, { sha256: row.fileSha256, part: partOf(row) }),
    );
  }

  /** A small picture of a page, as a PNG. */
  async pagePicture(id: string, part: Part): Promise<Buffer> {
    return this.withFile(id, async (path, { fileSha256: sha256 }, folder) =>
      readFile(await this.decoding.draw(path, folder, { sha256, part }, PAGE_PICTURE)),
    );
  }

  /** Another page of an artwork's file, as an artwork of its own. */
  choose(id: string, part: Part): Promise<ArtworkView> {
    return this.withFile(id, (path, { fileSha256, bytes, name }) =>
      this.addPart({ path, bytes: Number(bytes), sha256: fileSha256 }, name, part),
    );
  }

  private async withFile<T>(
    id: string,
    act: (path: string, row: ArtworkRow, folder: string) => Promise<T>,
  ): Promise<T> {
    const row = await this.row(id);
    return this.withBlob(row.fileSha256, (path, folder) => act(path, row, folder));
  }

  private async keep(
    { path, bytes, sha256: fileSha256 }: Arrived,
    name: string,
    part: Part,
    take: (path: string, folder: string) => Promise<Taken | null>,
    told?: (how: Progress) => void,
  ): Promise<ArtworkView | null> {
    if (bytes === 0) throw new IntakeError("The file is empty (0 bytes).");
    const sha256 = `${fileSha256}${partWords(part)}`;
    // Known again, it is as young as new: it is not collected before a ticket has it.
    const known = await this.database
      .updateTable("artworks")
      .set({ createdAt: new Date() })
      .where("sha256", "=", sha256)
      .returningAll()
      .executeTakeFirst();
    if (known?.reading) return viewOf(known);
    const folder = await this.decoding.workFolder();
    try {
      const taken = await take(path, folder);
      if (!taken) return null;
      told?.({ progress: 0.75, doing: "keeping it" });
      const reading = JSON.stringify(taken.reading);
      if (known) {
        await this.database.updateTable("artworks").set({ reading }).where("id", "=", known.id).execute();
        return viewOf({ ...known, reading: taken.reading });
      }
      const { facts, kind, notes, pages, boxes, layers, widthMm } = taken;
      const { page, box } = part;
      const pixels = taken.pixels && (await this.blobs.putFile(taken.pixels, "image/png"));
      const thumbnail = await this.blobs.putFile(taken.thumbnail, "image/png");
      await this.blobs.putFile(path, kind.mediaType);
      await this.database
        .insertInto("artworks")
        .values({
          ...{ sha256, fileSha256, page, box, pages, widthMm },
          ...{ boxes: JSON.stringify(boxes), layers: JSON.stringify(layers) },
          name: cleanName(name, kind.extension),
          kind: kind.name,
          mediaType: kind.mediaType,
          bytes,
          width: facts.width,
          height: facts.height,
          vector: facts.vector,
          notes: JSON.stringify(notes),
          pixelsSha256: pixels,
          thumbnailSha256: thumbnail,
          reading,
        })
        .onConflict((c) => c.column("sha256").doNothing())
        .execute();
      const row = (await this.bySha(sha256))!;
      await this.keepHalves(row, taken.halves);
      return viewOf(row);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  /** Takes in bytes that are at hand. */
  async addBytes(bytes: Uint8Array, name: string): Promise<ArtworkView> {
    const folder = await this.decoding.workFolder();
    try {
      const path = join(folder, "artwork");
      await writeFile(path, bytes);
      return await this.add({ path, bytes: bytes.length, sha256: fingerprint(bytes) }, name);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
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
    const row = await this.row(id);
    const { sha256, width, height, vector, pixelsSha256 } = row;
    const facts = { sha256, width, height, vector };
    if (!pixelsSha256) {
      return {
        facts,
        pixels: async (drawWidth) => {
          const drawn = await this.drawn(row, drawWidth ?? width);
          return readPng(this.blobs.stream(drawn), { inflate, pause: nextTurn });
        },
      };
    }
    // Straight from the database's chunks: neither the file nor the picture is ever held twice.
    const file = () => this.blobs.stream(pixelsSha256);
    return {
      facts,
      pixels: () => readPng(file(), { inflate, pause: nextTurn }),
      rows: (begin, pause) => readPngRows(file(), begin, { inflate, pause }),
    };
  }

  /** Lossless PNG of the picture; artwork made of shapes is drawn at the width asked for. */
  async pixelsPng(id: string, drawWidth?: number): Promise<Readable> {
    const row = await this.row(id);
    return this.blobs.stream(row.pixelsSha256 ?? (await this.drawn(row, drawWidth ?? row.width)));
  }

  /** Lossless PNG of the picture halved so many times. @throws ProblemException where it is not kept so */
  async halvedPng(id: string, times: number): Promise<Readable> {
    const row = await this.row(id);
    const most = row.vector ? 0 : halvesKept(row.width, row.height);
    if (!(Number.isInteger(times) && times >= 1 && times <= most))
      throw new ProblemException(
        400,
        "Not valid",
        most === 0
          ? `halved is ${times}; this artwork is kept whole alone`
          : `halved is ${times}; allowed: a whole number 1 to ${most}`,
      );
    const kept = () =>
      this.database
        .selectFrom("artworkHalves")
        .select("sha256")
        .where("artworkId", "=", id)
        .where("times", "=", times)
        .executeTakeFirst();
    const known = (await kept()) ?? (await this.makeHalves(row), await kept());
    return this.blobs.stream(known!.sha256);
  }

  /** Halves of an artwork that came before they were kept; made once for all who ask at the same time. */
  private makeHalves(row: ArtworkRow): Promise<void> {
    const id = String(row.id);
    const made = this.halving.get(id) ?? this.halve(row).finally(() => this.halving.delete(id));
    this.halving.set(id, made);
    return made;
  }

  private async halve(row: ArtworkRow): Promise<void> {
    await this.withBlob(row.pixelsSha256!, async (path, folder) =>
      this.keepHalves(row, await this.decoding.halve(path, folder)),
    );
  }

  private async keepHalves({ id }: ArtworkRow, files: readonly string[]): Promise<void> {
    for (const [k, file] of files.entries())
      await this.database
        .insertInto("artworkHalves")
        .values({ artworkId: String(id), times: k + 1, sha256: await this.blobs.putFile(file, "image/png") })
        .onConflict((c) => c.doNothing())
        .execute();
  }

  /** The PNG of a drawing at a width, drawn at the first time and then kept. */
  private drawn(row: ArtworkRow, width: number): Promise<string> {
    const key = `${row.id} ${width}`;
    const made = this.drawing.get(key) ?? this.draw(row, width).finally(() => this.drawing.delete(key));
    this.drawing.set(key, made);
    return made;
  }

  private async draw(row: ArtworkRow, width: number): Promise<string> {
    const { id, fileSha256 } = row;
    const kept = await this.database
      .updateTable("drawings")
      .set({ usedAt: new Date() })
      .where("artworkId", "=", id)
      .where("width", "=", width)
      .returning("sha256")
      .executeTakeFirst();
    if (kept) return kept.sha256;
    return this.withBlob(fileSha256, async (path, folder) => {
      const of = { sha256: fileSha256, part: partOf(row) };
      const png = await this.blobs.putFile(await this.decoding.draw(path, folder, of, width), "image/png");
      await this.database
        .insertInto("drawings")
        .values({ artworkId: id, width, sha256: png })
        .onConflict((c) => c.doNothing())
        .execute();
      return png;
    });
  }

  /** A blob as a file, and a folder beside it for what is made of it, for as long as that takes. */
  private async withBlob<T>(sha256: string, act: (path: string, folder: string) => Promise<T>): Promise<T> {
    const folder = await this.decoding.workFolder();
    try {
      const path = join(folder, "file");
      await pipeline(this.blobs.stream(sha256), createWriteStream(path));
      return await act(path, folder);
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  private bySha(sha256: string): Promise<ArtworkRow | undefined> {
    return this.database.selectFrom("artworks").selectAll().where("sha256", "=", sha256).executeTakeFirst();
  }
}

/** What of its file an artwork is. */
const partOf = ({ page, box, layers }: ArtworkRow): Part => ({
  ...{ page, box },
  ...(layers.length > 0 && { layers: layers.filter((l) => l.drawn).map((l) => l.name) }),
});

export function viewOf(row: ArtworkRow): ArtworkView {
  const { id, name, sha256, kind, bytes, width, height, vector, notes, reading } = row;
  const { page, pages, box, boxes, layers, widthMm } = row;
  const which = { page, pages, box, boxes, layers, widthMm };
  return { id: String(id), name, sha256, kind, bytes, width, height, vector, ...which, notes, reading };
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

/** What fails on the way in fails what comes out. */
const inflate = (data: AsyncIterable<Uint8Array>): AsyncIterable<Uint8Array> =>
  pipe(data, createInflate({ chunkSize: 1 << 18 }), () => undefined);

import { textArtwork } from "@hardline/core/letters/textArtwork";
import { deliver } from "@hardline/core/route/deliver";
import { filledRoute, type FieldValues } from "@hardline/core/route/fields";
import { readRoute } from "@hardline/core/route/route";
import { type ArtworkSource } from "@hardline/core/route/source";
import { type DeliveredFile } from "@hardline/core/stage/stage";
import { stageById } from "@hardline/core/stage/stages";
import { takeIn } from "@hardline/intake";
import { Inject, Injectable } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { ArtworksService } from "../artworks/artworks.service";
import { BlobStore } from "../blobs/blob.store";
import { Database } from "../database/database.module";
import { type StoredFile } from "../database/schema";
import { type Made, type RenderRow } from "../renders/renders.service";
import { type Maker, type Making } from "./maker";

/** What one of a batch is made from. */
export interface BatchWish {
  readonly name: string;
  readonly artworkId?: string;
  readonly text?: string;
  readonly fields?: FieldValues;
}

/** One picture, or one line of text, run through the route of its batch. */
@Injectable()
export class BatchMaker implements Maker {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async make(work: RenderRow, { runner, report, signal }: Making): Promise<Made> {
    const { name, artworkId, text, fields } = work.wish as BatchWish;
    const { route: body } = await this.database
      .selectFrom("batches")
      .select("route")
      .where("id", "=", work.batchId!)
      .executeTakeFirstOrThrow();
    const route = filledRoute(readRoute(body), fields ?? {});
    const source: ArtworkSource = artworkId
      ? await this.artworks.source(artworkId)
      : await takeIn(textArtwork(text ?? name));
    const stem = fileName(name);
    const files: StoredFile[] = [];
    const keep = async ({ name: file, mediaType, bytes }: DeliveredFile): Promise<void> => {
      const sha256 = await this.blobs.put(bytes, mediaType);
      files.push({ name: `${stem}-${file}`, mediaType, bytes: bytes.length, sha256 });
    };
    const { fingerprint } = await deliver(runner, route, source, {
      ...{ pause: nextTurn, signal, file: keep, job: name },
      progress: (share, stage) => report(share, stageById(stage).title.toLowerCase()),
    });
    return { files, dotsSha256: fingerprint };
  }
}

/** Letters and digits of a name, for files. */
const fileName = (name: string): string =>
  name
    .normalize("NFKD")
    .replace(/[^A-Za-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 60) || "item";

import { Inject, Injectable } from "@nestjs/common";
import { sql, type Kysely } from "kysely";
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { Readable } from "node:stream";
import { Database } from "../database/database.module";
import { type Schema } from "../database/schema";

const CHUNK = 1 << 20;

/** Bytes by their fingerprint, in the database, so that one dump of it is a whole backup. */
@Injectable()
export class BlobStore {
  constructor(@Inject(Database) private readonly database: Database) {}

  /** Keeps the bytes, whole or not at all, and returns their fingerprint. Bytes already kept are kept once. */
  async put(bytes: Uint8Array, mediaType: string): Promise<string> {
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    await this.database.transaction().execute(async (tx) => {
      const added = await addBlob(tx, sha256, bytes.length, mediaType);
      if (added) await addChunks(tx, sha256, bytes);
    });
    return sha256;
  }

  /** Keeps a file's bytes without ever holding them whole. */
  async putFile(path: string, mediaType: string): Promise<string> {
    const hash = createHash("sha256");
    let bytes = 0;
    for await (const chunk of createReadStream(path) as AsyncIterable<Buffer>) {
      hash.update(chunk);
      bytes += chunk.length;
    }
    const sha256 = hash.digest("hex");
    await this.database.transaction().execute(async (tx) => {
      if (!(await addBlob(tx, sha256, bytes, mediaType))) return;
      let seq = 0;
      for await (const data of createReadStream(path, { highWaterMark: CHUNK }) as AsyncIterable<Buffer>)
        await tx.insertInto("blobChunks").values({ sha256, seq: seq++, data }).execute();
    });
    return sha256;
  }

  async get(sha256: string): Promise<Buffer> {
    const chunks: Buffer[] = [];
    for await (const chunk of this.chunks(sha256)) chunks.push(chunk);
    return Buffer.concat(chunks);
  }

  stream(sha256: string): Readable {
    return Readable.from(this.chunks(sha256));
  }

  private async *chunks(sha256: string): AsyncGenerator<Buffer> {
    for (let seq = 0; ; seq++) {
      const chunk = await this.database
        .selectFrom("blobChunks")
        .select("data")
        .where("sha256", "=", sha256)
        .where("seq", "=", seq)
        .executeTakeFirst();
      if (!chunk) return;
      yield chunk.data;
    }
  }
}

/** Whether it was not there yet. */
async function addBlob(
  tx: Kysely<Schema>,
  sha256: string,
  bytes: number,
  mediaType: string,
): Promise<boolean> {
  const added = await tx
    .insertInto("blobs")
    .values({ sha256, bytes, mediaType })
    // One that is kept already is made young again, so that it is not collected before it is named.
    .onConflict((c) => c.column("sha256").doUpdateSet({ createdAt: sql<Date>`now()` }))
    .returning(sql<boolean>`xmax = 0`.as("added"))
    .executeTakeFirstOrThrow();
  return added.added;
}

async function addChunks(tx: Kysely<Schema>, sha256: string, bytes: Uint8Array): Promise<void> {
  for (let seq = 0; seq * CHUNK < bytes.length; seq++) {
    const data = Buffer.from(
      bytes.buffer,
      bytes.byteOffset + seq * CHUNK,
      Math.min(CHUNK, bytes.length - seq * CHUNK),
    );
    await tx.insertInto("blobChunks").values({ sha256, seq, data }).execute();
  }
}

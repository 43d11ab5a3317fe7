import { Inject, Injectable } from "@nestjs/common";
import { type Kysely } from "kysely";
import { createHash } from "node:crypto";
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
      const added = await tx
        .insertInto("blobs")
        .values({ sha256, bytes: bytes.length, media_type: mediaType })
        .onConflict((c) => c.doNothing())
        .returning("sha256")
        .executeTakeFirst();
      if (added) await addChunks(tx, sha256, bytes);
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
        .selectFrom("blob_chunks")
        .select("data")
        .where("sha256", "=", sha256)
        .where("seq", "=", seq)
        .executeTakeFirst();
      if (!chunk) return;
      yield chunk.data;
    }
  }
}

async function addChunks(tx: Kysely<Schema>, sha256: string, bytes: Uint8Array): Promise<void> {
  for (let seq = 0; seq * CHUNK < bytes.length; seq++) {
    const data = Buffer.from(
      bytes.buffer,
      bytes.byteOffset + seq * CHUNK,
      Math.min(CHUNK, bytes.length - seq * CHUNK),
    );
    await tx.insertInto("blob_chunks").values({ sha256, seq, data }).execute();
  }
}

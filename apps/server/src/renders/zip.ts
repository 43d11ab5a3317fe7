import { Zip, ZipPassThrough } from "fflate";

export interface Entry {
  readonly name: string;
  readonly bytes: AsyncIterable<Uint8Array>;
}

/** An archive of files stored as they are, made as it is read: no more of it is held than a piece of one file. */
export async function* zipped(entries: readonly Entry[]): AsyncGenerator<Uint8Array> {
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, data) => {
    if (error) throw error;
    ready.push(data);
  });
  for (const { name, bytes } of entries) {
    const file = new ZipPassThrough(name);
    file.mtime = "1980-01-01T12:00:00";
    zip.add(file);
    for await (const piece of bytes) {
      file.push(piece);
      yield* ready.splice(0);
    }
    file.push(new Uint8Array(0), true);
    yield* ready.splice(0);
  }
  zip.end();
  yield* ready.splice(0);
}

import { MOST_ARTWORK_BYTES } from "@hardline/contract/constants";
import { Unzip, UnzipInflate, type UnzipFile } from "fflate";

/** What is taken at once; more are none of a morning's orders. */
export const MOST_FILES = 500;
/** All that archives unpack to, together. */
const MOST_UNPACKED = 2 ** 31;
/** Bytes of an archive that are unpacked between two turns of the page. */
const AT_ONCE = 1 << 18;

/** A file that was not taken in, and why. */
export interface Refused {
  readonly name: string;
  readonly why: string;
}

/** Files that were dropped, those in folders too, by their paths. Called while the drop is told of: later it is empty. */
export async function filesDropped(dropped: DataTransfer): Promise<File[]> {
  const entries = Array.from(dropped.items, (item) => item.webkitGetAsEntry?.() ?? null);
  const files = Array.from(dropped.files);
  if (!entries.some((e) => e?.isDirectory)) return files;
  const found: [string, File][] = [];
  for (const entry of entries) if (entry) await collect(entry, found);
  return found.sort(([a], [b]) => (a < b ? -1 : 1)).map(([, file]) => file);
}

async function collect(entry: FileSystemEntry, found: [string, File][]): Promise<void> {
  if (found.length > MOST_FILES || isHidden(entry.name)) return;
  if (entry.isFile) {
    const file = await new Promise<File>((done, failed) => (entry as FileSystemFileEntry).file(done, failed));
    found.push([entry.fullPath, file]);
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  // A folder is told in stretches, until one is empty.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done, failed) => reader.readEntries(done, failed));
    if (some.length === 0) return;
    for (const inner of some) await collect(inner, found);
  }
}

/** Pictures that were pasted: as files, or a drawing as its text. */
export function filesPasted(pasted: Pick<DataTransfer, "files" | "getData">): File[] {
  if (pasted.files.length > 0) return Array.from(pasted.files);
  const text = pasted.getData("text/plain").trim();
  const drawn = /^(?:<\?xml[^>]*>\s*)?(?:<!--[^]*?-->\s*)*(?:<!DOCTYPE[^>]*>\s*)?<svg[\s>]/i.test(text);
  return drawn ? [new File([text], "pasted.svg", { type: "image/svg+xml" })] : [];
}

/** Files as they are, and what is in those that are archives; what cannot be is told beside them. */
export async function unpacked(files: readonly File[]): Promise<{ files: File[]; refused: Refused[] }> {
  const out: File[] = [];
  const refused: Refused[] = [];
  const room = { bytes: MOST_UNPACKED };
  for (const file of files) {
    try {
      if (!(await isArchive(file))) {
        out.push(file);
        continue;
      }
      const { found, cutOff } = await unpack(file, room);
      out.push(...found);
      for (const name of cutOff) refused.push({ name, why: `It is cut off in ${file.name}.` });
    } catch (error) {
      refused.push({ name: file.name, why: (error as Error).message });
    }
  }
  for (const file of out.splice(MOST_FILES))
    refused.push({ name: file.name, why: `${MOST_FILES} files are taken at once.` });
  return { files: out, refused };
}

async function isArchive(file: File): Promise<boolean> {
  const [a, b, c, d] = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  return a === 0x50 && b === 0x4b && c === 3 && d === 4;
}

async function unpack(
  archive: File,
  room: { bytes: number },
): Promise<{ readonly found: readonly File[]; readonly cutOff: ReadonlySet<string> }> {
  const found: File[] = [];
  const cutOff = new Set<string>();
  let fault: Error | null = null;
  const unzip = new Unzip((inner) => take(inner));
  unzip.register(UnzipInflate);
  function take(inner: UnzipFile): void {
    const name = inner.name.replace(/^.*\//, "");
    if (name === "" || isHidden(name) || inner.name.startsWith("__MACOSX/")) return;
    cutOff.add(name);
    const parts: Uint8Array<ArrayBuffer>[] = [];
    let bytes = 0;
    inner.ondata = (error, data, last) => {
      if (fault) return;
      bytes += data?.length ?? 0;
      room.bytes -= data?.length ?? 0;
      if (error) fault = error;
      else if (room.bytes < 0) fault = new Error("It unpacks to more than 2 GB.");
      else if (bytes > MOST_ARTWORK_BYTES)
        fault = new Error(`${name} in it has more than ${MOST_ARTWORK_BYTES / 2 ** 20} MB.`);
      else if (found.length > MOST_FILES) fault = new Error(`It holds more than ${MOST_FILES} files.`);
      if (fault) return inner.terminate();
      parts.push(Uint8Array.from(data));
      if (!last) return;
      cutOff.delete(name);
      found.push(new File(parts, name));
    };
    inner.start();
  }
  for (let at = 0; at < archive.size && !fault; at += AT_ONCE) {
    const part = new Uint8Array(await archive.slice(at, at + AT_ONCE).arrayBuffer());
    unzip.push(part); // never said to be the last: what is whole in an archive that is cut off is taken
    await new Promise((turn) => setTimeout(turn));
  }
  if (fault) throw fault as Error;
  if (found.length + cutOff.size === 0) throw new Error("The archive holds no file.");
  return { found, cutOff };
}

const isHidden = (name: string): boolean => name.startsWith(".");

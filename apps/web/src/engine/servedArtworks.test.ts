import { writeGrayPng, writeRgbaPng } from "@hardline/core/format/png";
import { runToEnd } from "@hardline/core/maths/work";
import { type Rgba } from "@hardline/core/raster/types";

/** A ramp with a colour of its own at every place, opaque or see-through in parts. */
function ramp(width: number, height: number, seeThrough: boolean): Rgba {
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++)
    data.set([i % 251, (i * 7) % 256, (i >> 3) % 256, seeThrough ? i % 256 : 255], 4 * i);
  return { width, height, data };
}

/** Stands in for the browser's decoder: notes what it was given, and hands over a picture in the rows asked for. */
function decoderOf(picture: Rgba | Error) {
  const asked = { decoded: 0, bytes: 0, rows: [] as number[] };
  globalThis.ImageDecoder = class {
    constructor(private readonly init: { data: ReadableStream<Uint8Array> }) {}
    async decode() {
      asked.decoded++;
      for await (const piece of this.init.data as unknown as AsyncIterable<Uint8Array>)
        asked.bytes += piece.length;
      if (picture instanceof Error) throw picture;
      const { width, height, data } = picture;
      const copyTo = async (to: Uint8Array, { rect }: { rect: { y: number; height: number } }) => {
        asked.rows.push(rect.height);
        to.set(data.subarray(rect.y * width * 4, (rect.y + rect.height) * width * 4));
      };
      return { image: { codedWidth: width, codedHeight: height, copyTo, close() {} } };
    }
    close() {}
  } as unknown as typeof ImageDecoder;
  return asked;
}

/** A server that sends a file in pieces of a few bytes. */
function serve(file: Uint8Array, most = 5): { times: number } {
  const sent = { times: 0 };
  globalThis.fetch = (async () => {
    sent.times++;
    let at = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(to) {
        if (at >= file.length) return to.close();
        const piece = at < 40 ? most : 4096;
        to.enqueue(file.slice(at, (at += piece)));
      },
    });
    return { ok: true, body };
  }) as unknown as typeof fetch;
  return sent;
}

const FACTS = { sha256: "", width: 40, height: 30, vector: false };
async function read(): Promise<Rgba> {
  Object.assign(globalThis, { self: globalThis });
  const { ServedArtworks } = await import("./servedArtworks");
  return new ServedArtworks().source("a", FACTS).pixels();
}

afterEach(() => {
  delete (globalThis as { ImageDecoder?: unknown }).ImageDecoder;
});

test("an opaque picture is read by the browser, whole and once", async () => {
  const picture = ramp(1500, 1000, false);
  const file = runToEnd(writeRgbaPng(picture, 72));
  const asked = decoderOf(picture);
  const opaque = file.slice();
  const sent = serve(opaque);
  opaque[25] = 2; // says that it has no alpha; the stand-in does not look
  expect(Buffer.compare((await read()).data, picture.data)).toBe(0);
  expect(asked).toEqual({ decoded: 1, bytes: file.length, rows: [699, 301] });
  expect(sent.times).toBe(1);
});

test("one that is see-through in parts never is: its colours would change", async () => {
  const picture = ramp(40, 30, true);
  serve(runToEnd(writeRgbaPng(picture, 72)));
  const asked = decoderOf(new Error("not asked"));
  expect((await read()).data).toEqual(picture.data);
  expect(asked.decoded).toBe(0);
});

test("where the browser has no decoder, or it fails, the picture is read all the same", async () => {
  const grey = { width: 40, height: 30, data: Uint8Array.from({ length: 1200 }, (_, i) => i % 256) };
  const wanted = Array.from(grey.data, (v) => [v, v, v, 255]).flat();
  const file = runToEnd(writeGrayPng(grey, 72));
  const once = serve(file);
  expect(Array.from((await read()).data)).toEqual(wanted);
  expect(once.times).toBe(1);
  const twice = serve(file);
  const asked = decoderOf(new Error("out of memory"));
  expect(Array.from((await read()).data)).toEqual(wanted);
  expect([asked.decoded, twice.times]).toEqual([1, 2]);
});

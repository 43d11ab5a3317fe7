import { type HarfBuzz } from "harfbuzzjs/hbjs.js";

let starting: Promise<HarfBuzz> | null = null;
let running: HarfBuzz | null = null;

/**
 * Starts the library that puts letters into order by a font's own rules (kerning, ligatures, accents, scripts that join).
 * It is a program of its own, loaded when words are first wanted.
 *
 * @param program  brings its bytes, where they are not found beside its script
 */
export function startShaper(program?: () => Promise<ArrayBuffer>): Promise<HarfBuzz> {
  starting ??= (async () => {
    const [{ default: create }, { default: wrapped }, wasmBinary] = await Promise.all([
      import("harfbuzzjs/hb.js"),
      import("harfbuzzjs/hbjs.js"),
      program?.(),
    ]);
    return (running = wrapped(await create(wasmBinary && { wasmBinary })));
  })();
  // What failed once is tried again.
  starting.catch(() => (starting = null));
  return starting;
}

/** @throws Error when `startShaper` has not ended yet */
export function shaper(): HarfBuzz {
  if (!running) throw new Error("letters are put into order before startShaper has ended");
  return running;
}

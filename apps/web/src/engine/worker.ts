import {
  dotsFingerprint,
  greyOf,
  readPng,
  Runner,
  settingsOf,
  writeRgbaPng,
  type Art,
  type ArtworkFacts,
  type ArtworkSource,
  type Rgba,
  type Route,
  type StageId,
  type StageResult,
} from "@hardline/core";
import { expose, transfer } from "comlink";
import { BACKINGS, markColour, usualBacking } from "../bench/table/backings";
import { paint } from "./paint";
import { type Inspected, type Pane, type Reading, type Shown, type StripRequest } from "./protocol";

/** Gives the worker's event loop a turn: faster than a timer, which browsers hold back. */
const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();
const pause = (): Promise<void> =>
  new Promise((done) => {
    waiting.push(done);
    channel.port2.postMessage(null);
  });

async function inflate(data: Uint8Array): Promise<Uint8Array> {
  const stream = new Blob([data as Uint8Array<ArrayBuffer>])
    .stream()
    .pipeThrough(new DecompressionStream("deflate"));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

const THUMBNAIL = 320;
const QUIET_MS = 400;
const SMALL = { width: 92, height: 68 };

/** The computation of one bench: the route's stages, and pictures of them. */
class Engine {
  private readonly runner = new Runner({ pause, clock: () => performance.now(), cacheBytes: 1 << 30 });
  private source!: ArtworkSource;
  private results: readonly StageResult[] = [];
  private aside = { aborted: false }; // inspection and test strip give way to what is on screen

  private tell: (share: number, stage: StageId) => void = () => undefined;
  private began = 0;

  open(artworkId: string, facts: ArtworkFacts, progress: (share: number, stage: StageId) => void): void {
    this.tell = progress;
    this.source = {
      facts,
      async pixels(drawWidth) {
        const response = await fetch(
          `/api/artworks/${artworkId}/pixels${drawWidth ? `?width=${drawWidth}` : ""}`,
        );
        if (!response.ok) throw new Error("The artwork cannot be read from the server.");
        return readPng(new Uint8Array(await response.arrayBuffer()), inflate);
      },
    };
  }

  /** Runs the route as far as needed and paints the panes. */
  async show(route: Route, panes: readonly Pane[], upTo: StageId): Promise<Shown> {
    this.aside.aborted = true;
    this.began = performance.now();
    this.results = await this.runner.run(route, this.source, { upTo, progress: this.progress });
    const shown = await Promise.all(
      panes.map(async (pane) => ({ ...pane, bitmap: await this.picture(this.results, pane) })),
    );
    const last = this.results[this.results.length - 1];
    return transfer(
      { panes: shown, key: last.key, finish: last.art.finish },
      shown.map((p) => p.bitmap),
    );
  }

  /** Another picture of what was last run, such as the loupe's. */
  async look(pane: Pane): Promise<ImageBitmap | null> {
    if (this.results.length === 0) return null;
    const bitmap = await this.picture(this.results, pane);
    return transfer(bitmap, [bitmap]);
  }

  /** Checks and readings of the whole route; null when something newer came in between. */
  async inspect(route: Route): Promise<Inspected | null> {
    const signal = this.beginAside();
    try {
      const results = await this.runner.run(route, this.source, { signal });
      const found = await this.runner.inspect(route, results, { signal });
      const reading = (stage: StageId, name: string) =>
        found.find((f) => f.stage === stage)?.readings[name] ?? null;
      const last = results[results.length - 1];
      const { dots } = last.art;
      const colours = coloursOf(route);
      const stages = await Promise.all(
        results.map(async ({ stage }) => ({
          stage,
          bitmap: await this.picture(results, wholeOf(results, stage, SMALL, colours)),
        })),
      );
      return transfer(
        {
          key: last.key,
          checks: found.flatMap(({ stage, checks }) => checks.map((check) => ({ ...check, stage }))),
          before: reading("tone", "histogramBefore") as number[] | null,
          after: reading("tone", "histogramAfter") as number[] | null,
          markedPercent: reading("blackWhite", "markedPercent") as number | null,
          threshold: reading("blackWhite", "threshold") as number | null,
          sourcePerInch: reading("size", "sourcePerInch") as number | null,
          dotsSha256: dots ? dotsFingerprint(dots.bits) : null,
          thumbnail: thumbnailOf(results, colours),
          stages,
        },
        stages.map((s) => s.bitmap),
      );
    } catch (error) {
      if ((error as Error).name === "AbortError") return null;
      throw error;
    }
  }

  /** The same crop of several routes; null when something newer came in between. */
  async strip({ routes, pane }: StripRequest): Promise<ImageBitmap[] | null> {
    const signal = this.beginAside();
    try {
      const bitmaps: ImageBitmap[] = [];
      for (const route of routes)
        bitmaps.push(await this.picture(await this.runner.run(route, this.source, { signal }), pane));
      return transfer(bitmaps, bitmaps);
    } catch (error) {
      if ((error as Error).name === "AbortError") return null;
      throw error;
    }
  }

  /** @param x, y  in dots */
  read(x: number, y: number): Reading | null {
    const last = this.results[this.results.length - 1]?.art;
    const art = this.results.find((r) => r.stage === "tone")?.art ?? last;
    if (!last?.finish || x < 0 || y < 0 || x >= last.finish.widthPx || y >= last.finish.heightPx) return null;
    const i = Math.floor(y) * last.finish.widthPx + Math.floor(x);
    const grey = art.toned ? art.toned.gray.data[i] : greyAt(art.colour, i);
    const bits = last.dots?.bits;
    const marked = bits && (bits.data[Math.floor(y) * bits.stride + (x >> 3)] >> (7 - (x & 7))) & 1;
    return { tone: ((255 - grey) / 255) * 100, dot: bits ? (marked ? "mark" : "bare") : null };
  }

  /** Only what takes more than a moment is worth a message. */
  private readonly progress = (share: number, stage: StageId): void => {
    if (performance.now() - this.began > QUIET_MS) this.tell(share, stage);
  };

  private beginAside(): { aborted: boolean } {
    this.aside.aborted = true;
    this.aside = { aborted: false };
    return this.aside;
  }

  private picture(results: readonly StageResult[], pane: Pane): Promise<ImageBitmap> {
    const at = results.find((r) => r.stage === pane.stage) ?? results[results.length - 1];
    // The artwork's own picture is placed by the finish size, which a later stage knows.
    const finish = results[results.length - 1].art.finish;
    const art: Art = pane.stage === "artwork" ? { ...at.art, finish } : at.art;
    const stage = at.stage === pane.stage ? pane.stage : at.stage;
    return createImageBitmap(new ImageData(paint(art, { ...pane, stage }), pane.width, pane.height));
  }
}

const greyAt = (picture: Rgba, i: number): number =>
  greyOf({ width: 1, height: 1, data: picture.data.slice(i * 4, i * 4 + 4) }).data[0];

type Colours = Pick<Pane, "mark" | "base">;

/** What the route's material looks like, marked and bare. */
function coloursOf(route: Route): Colours {
  const material = settingsOf<{ material?: string }>(route, "blackWhite")?.material;
  return { mark: markColour(material), base: BACKINGS[usualBacking(material)].colour };
}

function wholeOf(
  results: readonly StageResult[],
  stage: StageId,
  box: { width: number; height: number },
  colours: Colours,
): Pane {
  const { finish, colour } = results[results.length - 1].art;
  const [w, h] = finish ? [finish.widthPx, finish.heightPx] : [colour.width, colour.height];
  const scale = Math.min(box.width / w, box.height / h);
  const [width, height] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))];
  return { stage, part: { x: 0, y: 0, width: w, height: h }, width, height, ...colours };
}

function thumbnailOf(results: readonly StageResult[], colours: Colours): string {
  const last = results[results.length - 1];
  const pane = wholeOf(results, last.stage, { width: THUMBNAIL, height: THUMBNAIL }, colours);
  const png = writeRgbaPng(
    { width: pane.width, height: pane.height, data: new Uint8Array(paint(last.art, pane).buffer) },
    72,
  );
  let text = "";
  for (const byte of png) text += String.fromCharCode(byte);
  return btoa(text);
}

export type EngineApi = Engine;
expose(new Engine());

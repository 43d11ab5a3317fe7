import {
  clear,
  ColourTable,
  dotsFingerprint,
  finish as finishWork,
  greyOf,
  halveRgba,
  previewPick,
  paperAt,
  readPng,
  Runner,
  settingsOf,
  writeRgbaPng,
  type Art,
  type ArtworkFacts,
  type ArtworkSource,
  type ClearSettings,
  type Rgba,
  type Route,
  type StageId,
  type StageResult,
} from "@hardline/core";
import { expose, transfer } from "comlink";
import { BACKINGS, markColour, usualBacking } from "../bench/table/backings";
import { paint } from "./paint";
import { paintPick } from "./paintCleared";
import {
  type Inspected,
  type Pane,
  type PickShown,
  type PickWish,
  type Reading,
  type Shown,
  type StripRequest,
} from "./protocol";

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
/** A draft is made from about so many pixels. */
const DRAFT_PIXELS = 500000;
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
  private draw: (shown: Shown) => void = () => undefined;
  /** Colours measured for the pick under the pointer; made when first pointed. */
  private colours: ColourTable | null = null;

  open(
    artworkId: string,
    facts: ArtworkFacts,
    progress: (share: number, stage: StageId) => void,
    draft: (shown: Shown) => void,
  ): void {
    this.tell = progress;
    this.draw = draft;
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
    if (panes[0]?.stage === "clear") await this.draft(route, panes);
    // The artwork is placed by the finish size, so Size is run for it too.
    const through = upTo === "artwork" ? "size" : upTo;
    this.results = await this.runner.run(route, this.source, { upTo: through, progress: this.progress });
    const shown = await Promise.all(
      panes.map(async (pane) => ({ ...pane, bitmap: await this.picture(this.results, pane) })),
    );
    const last = this.results[this.results.length - 1];
    const cleared = this.results.find((r) => r.stage === "clear")?.art.cleared;
    return transfer(
      {
        panes: shown,
        key: last.key,
        finish: last.art.finish,
        gaps: cleared ? cleared.gaps.map(({ op, gaps }) => ({ op, gaps })) : null,
      },
      shown.map((p) => p.bitmap),
    );
  }

  /** A first look at a large picture's clearing, made from as few of its pixels as the screen shows. */
  private async draft(route: Route, panes: readonly Pane[]): Promise<void> {
    const settings = settingsOf<ClearSettings>(route, "clear");
    if (!settings || this.runner.has(route, this.source, "clear")) return;
    const before = await this.runner.run(route, this.source, { upTo: "size" });
    const { art } = before[before.length - 1];
    const scale = panes[0].part.width / panes[0].width;
    let [colour, halvings] = [art.colour, 0];
    while (colour.width * colour.height > DRAFT_PIXELS && 2 << halvings <= scale * 1.3) {
      colour = halveRgba(colour);
      halvings++;
    }
    if (halvings === 0 || !art.finish) return;
    const by = 1 / (1 << halvings);
    const finish = {
      ...art.finish,
      widthPx: colour.width,
      heightPx: colour.height,
      dotsPerInch: art.finish.dotsPerInch * by,
    };
    const small = finishWork(clear.run({ ...art, colour, finish }, settings));
    const shown = panes.map((pane) => {
      const part = {
        x: pane.part.x * by,
        y: pane.part.y * by,
        width: pane.part.width * by,
        height: pane.part.height * by,
      };
      const data = paint(pane.stage === "clear" ? small : { ...art, colour }, { ...pane, part });
      return { ...pane, image: new ImageData(data, pane.width, pane.height) };
    });
    const bitmaps = await Promise.all(
      shown.map(async ({ image, ...pane }) => ({ ...pane, bitmap: await createImageBitmap(image) })),
    );
    this.draw(
      transfer(
        { panes: bitmaps, key: `draft ${settings.ops.length}`, finish: art.finish, gaps: null, draft: true },
        bitmaps.map((b) => b.bitmap),
      ),
    );
  }

  /** What a click would take, as the screen shows it; null where there is no picture. */
  async pickAt({ x, y, tolerance, joined, part, width, height }: PickWish): Promise<PickShown | null> {
    const before = this.results.findLast((r) => r.stage === "artwork" || r.stage === "size");
    const picture = before?.art.colour;
    if (!picture || x < 0 || y < 0 || x >= picture.width || y >= picture.height) return null;
    this.colours ??= new ColourTable();
    const { mask, share } = previewPick(picture, x, y, tolerance, joined, part, width, height, this.colours);
    const bitmap = await createImageBitmap(new ImageData(paintPick(mask, width, height), width, height));
    return transfer({ bitmap, share }, [bitmap]);
  }

  /** The paper's colour about a dot, as #rrggbb in the light that a lift makes of it; null where there is no picture. */
  paperAt(x: number, y: number, light: "even" | "uneven"): string | null {
    const before = this.results.findLast((r) => r.stage === "artwork" || r.stage === "size");
    return before ? paperAt(before.art.colour, x, y, light) : null;
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
          keptPercent: reading("clear", "keptPercent") as number | null,
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

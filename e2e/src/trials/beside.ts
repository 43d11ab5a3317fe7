import { type ArtworkView, type RenderView, type SheetView } from "@hardline/contract";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { runToEnd } from "@hardline/core/maths/work";
import { newRgba } from "@hardline/core/raster/types";
import { type Plates } from "@hardline/core/result/result";
import { Runner } from "@hardline/core/route/runner";
import { answered, ANSWERS_OF } from "@hardline/core/simulator/answer";
import { photographed } from "@hardline/core/simulator/photograph";
import { drawWedge } from "@hardline/core/wedge/layout";
import { wedgeRoute } from "@hardline/core/wedge/wedge";
import sharp from "sharp";
import { addTicket, ask, credentials, newDatabase, startSignedIn, type Program } from "../harness";
import { endless } from "./hostileFiles";
import { printTable, quantile, sleep } from "./table";

/** What others may have to wait, and how late the server's thread may be, in ms, 99 times of 100. */
const MOST_WAIT_MS = 100;
const MOST_DELAY_MS = 50;
const LEAST_MS = 3000;

/**
 * What others feel while something heavy is at work: page, health and a small edit, again and again, and how late the
 * server's thread is. @returns how many of the loads held somebody up
 */
export async function besides(): Promise<number> {
  const program = await startSignedIn(await newDatabase(), [], {
    LOG_LEVEL: "fatal",
    HARDLINE_DRAW_SECONDS: "8",
  });
  const bench = await Bench.of(program);
  const rows: (string | number)[][] = [];
  let held = 0;
  try {
    const wanted = new RegExp(process.env.BESIDE ?? "");
    for (const [name, load] of (await bench.loads(wanted)).filter(([n]) => wanted.test(n))) {
      const { waits, p99, most, outcome, seconds } = await bench.beside(load);
      const [wait, longest] = [quantile(waits, 0.99), Math.max(...waits)];
      const fine = wait <= MOST_WAIT_MS && p99 <= MOST_DELAY_MS;
      if (!fine) held++;
      const figures = [wait, longest, p99, most].map((v) => v.toFixed(0));
      rows.push([name, outcome, seconds.toFixed(1), waits.length, ...figures, fine ? "" : "held up"]);
    }
  } finally {
    await program.stop();
  }
  const head = ["load", "answered", "s", "asked", "p99 ms", "longest", "thread p99", "most", ""];
  printTable("Page, health and a small edit beside", head, rows);
  return held;
}

type Load = () => Promise<string>;

class Bench {
  private constructor(
    private readonly url: string,
    private readonly ticketId: string,
    private readonly routeId: string,
  ) {}

  static async of({ url }: Program): Promise<Bench> {
    const png = await sharp({ create: { width: 200, height: 200, channels: 3, background: "#333" } })
      .png()
      .toBuffer();
    const stages = [
      { stage: "size", widthMm: 20, dotsPerInch: 254 },
      { stage: "cutLine", from: "shape" },
    ];
    const { ticket, route } = await addTicket(url, png, "tag.png", stages);
    return new Bench(url, ticket.id, route.id);
  }

  /** Each heavy thing, made ready before: what is measured is the program, not who asks. */
  async loads(wanted: RegExp): Promise<(readonly [string, Load])[]> {
    const { url, routeId } = this;
    const piece = await ask<RenderView>(`${url}/api/routes/${routeId}/piece?bleedMm=0`, "POST");
    for (
      let work = piece;
      work.state !== "done";
      work = await ask<RenderView>(`${url}/api/renders/${piece.id}`)
    )
      await sleep(100);
    const body = { stock: { widthMm: 5000, heightMm: 20000 }, pieces: [{ routeId, count: 10000 }] };
    const sheet = await ask<SheetView>(`${url}/api/sheets`, "POST", { name: "Many", body });
    let { version } = sheet;
    const placed =
      (count: number, at: (k: number) => readonly [number, number]) => async (): Promise<string> => {
        const placings = Array.from({ length: count }, (_, k) => {
          const [xMm, yMm] = at(k);
          return { piece: 0, sheet: 0, xMm, yMm, turnDegrees: 0, mirrored: false };
        });
        const saved = await this.post("PUT", `/api/sheets/${sheet.id}`, {
          ...{ name: "Many", body, version, placings, revisions: { [routeId]: 2 } },
        });
        if (saved.status !== 200) return saved.status.toString();
        version++;
        await Promise.all([1, 2, 3].map(() => ask(`${url}/api/sheets/${sheet.id}`)));
        const { checks } = JSON.parse(saved.text) as SheetView;
        return `200, ${checks.find((c) => c.id === "sheetOverlap")?.text ?? "no check"}`;
      };
    const artwork = async (bytes: Buffer, name: string) =>
      (
        await fetch(`${url}/api/artworks?name=${name}`, {
          method: "POST",
          body: new Uint8Array(bytes),
          headers: credentials(url),
        })
      ).json();
    const isRead = wanted.test("a wedge's photograph of 24 MP read");
    const photo = isRead
      ? await wedgePhoto()
      : await sharp(Buffer.from([1, 2, 3]), { raw: { width: 1, height: 1, channels: 3 } })
          .png()
          .toBuffer();
    const taken = await follow(url, (await artwork(photo, "photo.jpg")) as { id: string; state?: string });
    const large = await sharp({ create: { width: 20000, height: 10000, channels: 3, background: "#9ab" } })
      .png()
      .toBuffer();
    const empty = (count: number) =>
      JSON.stringify({ name: "B", houseRouteId: "1", items: Array(count).fill({}) });
    const strokes = strokesRoute();
    return [
      ["nothing", async () => "–"],
      ["2,000 copies on one place", placed(2000, () => [50, 50])],
      ["20,000 copies on one place", placed(20000, () => [50, 50])],
      [
        "10,000 copies that lie well",
        placed(10000, (k) => [40 + 24 * (k % 200), 40 + 24 * Math.floor(k / 200)]),
      ],
      [
        "a batch of a million nothings",
        async () => `${(await this.raw("POST", "/api/batches", empty(1e6))).status}`,
      ],
      [
        "a batch of 100,000 nothings",
        async () => `${(await this.raw("POST", "/api/batches", empty(1e5))).status}`,
      ],
      [
        "a batch of 5,000 nothings",
        async () => `${(await this.raw("POST", "/api/batches", empty(5000))).status}`,
      ],
      [
        "a route of 4 MB of strokes",
        async () => `${(await this.raw("PUT", `/api/routes/${routeId}`, strokes)).status}`,
      ],
      [
        "a wedge's photograph of 24 MP read",
        async () => `${(await this.post("POST", `/api/materials/slate/curves/photo/${taken.id}`)).status}`,
      ],
      [
        "a picture of 200 MP",
        async () =>
          `${(await follow(url, (await artwork(large, "large.png")) as { id: string })) ? "taken in" : ""}`,
      ],
      [
        "four drawings without end",
        async () =>
          (
            await Promise.all([5, 6, 7, 8].map(async (seed) => (await this.svg(endless(seed))).toString()))
          ).join(" "),
      ],
    ];
  }

  /** The load, and others beside it, as long as it is at work and a while at least. */
  async beside(load: Load) {
    const since = () => ask<{ p99Ms: number; mostMs: number }>(`${this.url}/api/health/delays`);
    await sleep(500);
    await since();
    const waits: number[] = [];
    let busy = true;
    const began = performance.now();
    let seconds = 0;
    const doing = load()
      .catch((error: Error) => error.message.slice(0, 60))
      .then((said) => {
        busy = false;
        seconds = (performance.now() - began) / 1000;
        return said;
      });
    for (let k = 0; busy || performance.now() - began < LEAST_MS; k++) {
      waits.push(await this.timed("GET", "/"), await this.timed("GET", "/api/health"));
      waits.push(await this.timed("PATCH", `/api/tickets/${this.ticketId}`, { note: `note ${k}` }));
      await sleep(20);
    }
    const outcome = await doing;
    const { p99Ms, mostMs } = await since();
    return { waits, outcome, seconds, p99: p99Ms, most: mostMs };
  }

  private async timed(method: string, path: string, json?: unknown): Promise<number> {
    const began = performance.now();
    const { status } = await this.post(method, path, json);
    if (status >= 400) throw new Error(`${method} ${path}: ${status}`);
    return performance.now() - began;
  }

  private post(method: string, path: string, json?: unknown): Promise<{ status: number; text: string }> {
    return this.raw(method, path, json === undefined ? undefined : JSON.stringify(json));
  }

  private async raw(method: string, path: string, body?: string): Promise<{ status: number; text: string }> {
    const own = credentials(this.url);
    const headers = { "Content-Type": "application/json", ...own };
    const answer = await fetch(
      `${this.url}${path}`,
      body === undefined ? { method, headers: own } : { method, body, headers },
    );
    return { status: answer.status, text: await answer.text() };
  }

  private async svg(bytes: Buffer | string): Promise<number> {
    const headers = { "Content-Type": "image/svg+xml", ...credentials(this.url) };
    const answer = await fetch(`${this.url}/api/artworks?name=a.svg`, {
      method: "POST",
      body: bytes.toString(),
      headers,
    });
    await answer.text();
    return answer.status;
  }
}

async function follow(url: string, answer: { id: string; state?: string }): Promise<ArtworkView> {
  if (answer.state === undefined) return answer as ArtworkView;
  for (;;) {
    const { artwork, state, error } = await ask<{
      artwork: ArtworkView | null;
      state: string;
      error: string;
    }>(`${url}/api/arrivals/${answer.id}`);
    if (artwork) return artwork;
    if (state === "failed") throw new Error(error);
    await sleep(200);
  }
}

/** A photograph of slate's wedge, of some 24 megapixels. */
async function wedgePhoto(): Promise<Buffer> {
  const material = USUAL_MATERIALS.find((m) => m.key === "slate")!;
  const gray = drawWedge(material.dotsPerInch);
  const colour = newRgba(gray.width, gray.height);
  gray.data.forEach((g, i) => colour.data.set([g, g, g, 255], 4 * i));
  const facts = { sha256: "0".repeat(64), width: gray.width, height: gray.height, vector: false };
  const results = await new Runner({}).run(wedgeRoute(material), { facts, pixels: async () => colour });
  const { bits } = (results[results.length - 1].result as Plates).plates[0];
  const marks = runToEnd(answered(bits, material.dotsPerInch, ANSWERS_OF.slate));
  const photo = runToEnd(photographed(marks, { bare: 0x3f444a, marked: 0xb9bcbc }, 5600, 6));
  const { width, height, data } = photo;
  console.log(`the photograph: ${((width * height) / 1e6).toFixed(1)} megapixels`);
  return sharp(data, { raw: { width, height, channels: 4 } })
    .removeAlpha()
    .jpeg({ quality: 92 })
    .toBuffer();
}

/** A route whose Clear has thousands of strokes with many points each. */
function strokesRoute(): string {
  const points = (k: number) =>
    Array.from({ length: 90 }, (_, j) => [((k * 7 + j) % 1000) / 1000, (j * 11) / 1000]);
  const strokes = (k: number) =>
    Array.from({ length: 20 }, (_, j) => ({ points: points(20 * k + j), sizeMm: 1 }));
  const ops = Array.from({ length: 130 }, (_, k) => ({ op: "brush", paints: "away", strokes: strokes(k) }));
  const route = { format: "hard-line-route", version: 1, name: "Strokes", stages: [{ stage: "clear", ops }] };
  return JSON.stringify({ version: 2, route });
}

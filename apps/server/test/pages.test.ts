import {
  type ArtworkPaths,
  type ArtworkView,
  type PageView,
  type Problem,
  type RouteView,
  type TicketView,
} from "@hardline/contract";
import sharp from "sharp";
import { designersPdf } from "../../../e2e/src/designersPdf";
import { ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
let file: Buffer;
let artwork: ArtworkView;
const url = (path: string) => `${program.url}${path}`;
const send = <T>(path: string, json: object): Promise<T> => ask<T>(url(path), "POST", json);
const takenIn = async (name: string, body: Uint8Array): Promise<ArtworkView> =>
  (await (
    await fetch(url(`/api/artworks?name=${name}`), { method: "POST", body: body as Uint8Array<ArrayBuffer> })
  ).json()) as ArtworkView;
const pictureAt = async (path: string) =>
  sharp(Buffer.from(await (await fetch(url(path))).arrayBuffer()))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  file = await designersPdf();
  artwork = await takenIn("cards.pdf", file);
});
afterAll(() => program?.stop());

test("a PDF's pages are told, with what each of their edges encloses", async () => {
  expect(artwork).toMatchObject({
    kind: "PDF",
    page: 1,
    pages: 3,
    box: "crop",
    boxes: ["crop"],
    vector: true,
  });
  const pages = await ask<PageView[]>(url(`/api/artworks/${artwork.id}/pages`));
  const sizes = pages.map(({ boxes }) =>
    boxes.map((b) => [b.box, Math.round(b.widthMm * 10) / 10, Math.round(b.heightMm * 10) / 10]),
  );
  expect(sizes).toEqual([
    [["crop", 210, 297]],
    [
      ["crop", 105, 75],
      ["trim", 85, 55],
      ["bleed", 91, 61],
    ],
    [["crop", 40, 60]], // turned
  ]);
});

test("a small picture of each is to be had", async () => {
  const { data, info } = await pictureAt(`/api/artworks/${artwork.id}/pages/2?box=trim`);
  expect([info.width, info.height]).toEqual([320, 207]);
  expect(Array.from(data.subarray(0, 4))).toEqual([242, 214, 77, 255]); // yellow to its very corner
  const middle = (103 * 320 + 160) * 4;
  expect(Array.from(data.subarray(middle, middle + 3))).toEqual([26, 51, 115]);
});

test("a page that is chosen is an artwork of its own, at its own size, from the same file", async () => {
  const card = await send<ArtworkView>(`/api/artworks/${artwork.id}/pages`, { page: 2, box: "trim" });
  expect(card).toMatchObject({ page: 2, pages: 3, box: "trim", sha256: `${artwork.sha256}#page=2&box=trim` });
  expect(card.widthMm).toBeCloseTo(85, 2);
  const again = await send<ArtworkView>(`/api/artworks/${card.id}/pages`, { page: 2, box: "trim" });
  expect(again.id).toBe(card.id);
  const drawn = await pictureAt(`/api/artworks/${card.id}/pixels?width=850`);
  expect([drawn.info.width, drawn.info.height]).toEqual([850, 550]);
  const original = Buffer.from(await (await fetch(url(`/api/artworks/${card.id}/original`))).arrayBuffer());
  expect(original.equals(file)).toBe(true);
  const ticket = await send<TicketView>("/api/tickets", { artworkId: card.id });
  const { route } = await ask<RouteView>(url(`/api/routes/${ticket.routes[0].id}`));
  expect(JSON.stringify(route)).toContain('"widthMm":85,');
});

test("what a layer names as cut is left out, its path is told, and a layer is drawn where it is asked for", async () => {
  const pages = await ask<PageView[]>(url(`/api/artworks/${artwork.id}/pages`));
  expect(pages.map((page) => page.layers)).toEqual([
    [],
    [{ name: "Card outline", drawn: false, cut: true }],
    [],
  ]);
  const card = await send<ArtworkView>(`/api/artworks/${artwork.id}/pages`, { page: 2, box: "trim" });
  expect(card.notes).toContain("cut lines left out: Card outline");
  const { widthMm, groups } = await ask<ArtworkPaths>(url(`/api/artworks/${card.id}/paths`));
  expect(widthMm).toBeCloseTo(85, 2);
  expect(groups[0]).toMatchObject({
    name: "Card outline, cut",
    layer: "Card outline",
    closed: 1,
    cutting: true,
  });

  const layers = ["Card outline"];
  const lined = await send<ArtworkView>(`/api/artworks/${artwork.id}/pages`, {
    page: 2,
    box: "trim",
    layers,
  });
  expect(lined.id).not.toBe(card.id);
  expect(lined.sha256).toBe(`${artwork.sha256}#page=2&box=trim&layers=Card%20outline`);
  expect(lined.layers).toEqual([{ name: "Card outline", drawn: true, cut: true }]);
  // on the line at the left, half way down: pink there, yellow where it is not drawn
  const at = async (id: string) => {
    const { data, info } = await pictureAt(`/api/artworks/${id}/pixels?width=1700`);
    return data[Math.floor(info.height / 2) * info.width * 4 + 1];
  };
  expect(await at(card.id)).toBe(214);
  expect(await at(lined.id)).toBeLessThan(190);
  const small = await pictureAt(`/api/artworks/${artwork.id}/pages/2?box=trim&layers=Card%20outline`);
  expect(small.info.width).toBe(320);
});

test("an artwork of pixels has no paths", async () => {
  const png = await sharp({ create: { width: 9, height: 9, channels: 3, background: "#eee" } })
    .png()
    .toBuffer();
  const { id } = await takenIn("b.png", png);
  const response = await fetch(url(`/api/artworks/${id}/paths`));
  expect([response.status, ((await response.json()) as Problem).detail]).toEqual([
    422,
    "A PNG is made of pixels and has no paths.",
  ]);
});

test.each([
  [{ page: 2, box: "crop", layers: ["Gold"] }, /layers has .*Gold.*page 2 has Card outline/],
  [{ page: 2, box: "crop", layers: "Gold" }, /layers/],
  [{ page: 9, box: "crop" }, /page is 9; allowed: a whole number 1 to 3/],
  [{ page: 1, box: "trim" }, /box is trim; page 1 has crop alone/],
  [{ page: 1, box: "media" }, /box is .*media.*must be one of the following values: crop, trim, bleed/],
  [{ page: 0, box: "crop" }, /page is 0; it must not be less than 1/],
])("%j is refused with the reason", async (body, reason) => {
  const response = await fetch(url(`/api/artworks/${artwork.id}/pages`), {
    method: "POST",
    body: JSON.stringify(body),
    headers: { "Content-Type": "application/json" },
  });
  expect([400, 422]).toContain(response.status);
  expect(JSON.stringify((await response.json()) as Problem)).toMatch(reason);
});

test("a picture has no pages to choose from", async () => {
  const png = await sharp({ create: { width: 9, height: 9, channels: 3, background: "#fff" } })
    .png()
    .toBuffer();
  const { id } = await takenIn("a.png", png);
  const response = await fetch(url(`/api/artworks/${id}/pages`));
  expect([response.status, ((await response.json()) as Problem).detail]).toEqual([
    422,
    "A PNG is taken whole.",
  ]);
});

import { type ArtworkView, type Problem } from "@hardline/contract";
import { runToEnd } from "@hardline/core/maths/work";
import { keptHalves } from "@hardline/core/raster/keptHalves";
import pg from "pg";
import sharp from "sharp";
import { newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

const [WIDTH, HEIGHT] = [2401, 1502];
let databaseUrl: string;
let program: Program;
let whole: Buffer;
let artwork: ArtworkView;

const url = (path: string) => `${program.url}${path}`;
const pixels = async (query: string) => {
  const response = await fetch(url(`/api/artworks/${artwork.id}/pixels${query}`));
  expect(response.status).toBe(200);
  return sharp(Buffer.from(await response.arrayBuffer()))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
};
async function asked(sql: string): Promise<Record<string, unknown>[]> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    return (await client.query(sql)).rows as Record<string, unknown>[];
  } finally {
    await client.end();
  }
}

beforeAll(async () => {
  databaseUrl = await newDatabase();
  program = await startProgram(databaseUrl);
  const noise = { type: "gaussian" as const, mean: 120, sigma: 40 };
  whole = await sharp({ create: { width: WIDTH, height: HEIGHT, channels: 4, background: "#fff", noise } })
    .png({ compressionLevel: 1 })
    .toBuffer();
  const body = whole as Uint8Array<ArrayBuffer>;
  artwork = (await (
    await fetch(url("/api/artworks?name=noise.png"), { method: "POST", body })
  ).json()) as ArtworkView;
});
afterAll(() => program?.stop());

const halvesOfWhole = async () => {
  const data = new Uint8Array(await sharp(whole).ensureAlpha().raw().toBuffer());
  return runToEnd(keptHalves({ width: WIDTH, height: HEIGHT, data }));
};

test("an artwork is kept halved as core halves it, down to what a first look is made of", async () => {
  const halves = await halvesOfWhole();
  expect(halves.map((h) => [h.width, h.height])).toEqual([
    [1200, 751],
    [600, 375],
  ]);
  for (const [k, { width, height, data }] of halves.entries()) {
    const got = await pixels(`?halved=${k + 1}`);
    expect([got.info.width, got.info.height]).toEqual([width, height]);
    expect(got.data.equals(Buffer.from(data))).toBe(true);
  }
});

test("one that came before halves were kept gets them when they are asked for, by two at once too", async () => {
  await asked("delete from artwork_halves");
  const [one, two] = await Promise.all([pixels("?halved=2"), pixels("?halved=1")]);
  const halves = await halvesOfWhole();
  expect(one.data.equals(Buffer.from(halves[1].data))).toBe(true);
  expect(two.data.equals(Buffer.from(halves[0].data))).toBe(true);
  expect(await asked("select times from artwork_halves order by 1")).toEqual([{ times: 1 }, { times: 2 }]);
});

test.each([
  ["?halved=0", /halved is 0; allowed: a whole number 1 to 2/],
  ["?halved=3", /halved is 3; allowed: a whole number 1 to 2/],
  ["?halved=1.5", /halved is 1.5; allowed/],
  ["?halved=many", /halved is NaN; allowed/],
  ["?halved=1&width=100", /one of them/],
])("%s is refused", async (query, detail) => {
  const response = await fetch(url(`/api/artworks/${artwork.id}/pixels${query}`));
  expect(response.status).toBe(400);
  expect(((await response.json()) as Problem).detail).toMatch(detail);
});

test("a small artwork, and one made of shapes, are kept whole alone", async () => {
  const small = await sharp({ create: { width: 40, height: 30, channels: 3, background: "#456" } })
    .png()
    .toBuffer();
  const shapes = Buffer.from(
    '<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="2000"><rect width="20" height="20"/></svg>',
  );
  for (const [name, bytes] of [
    ["a.png", small],
    ["b.svg", shapes],
  ] as const) {
    const sent = await fetch(url(`/api/artworks?name=${name}`), {
      method: "POST",
      body: bytes as Uint8Array<ArrayBuffer>,
    });
    const { id } = (await sent.json()) as ArtworkView;
    const response = await fetch(url(`/api/artworks/${id}/pixels?halved=1`));
    expect(response.status).toBe(400);
    expect(((await response.json()) as Problem).detail).toMatch(/kept whole alone/);
  }
});

test("halves go with their artwork, and not before", async () => {
  const named = await asked("select sha256 from artwork_halves");
  expect(named).toHaveLength(2);
  await asked("update artworks set created_at = now() - interval '400 days'");
  await asked("update blobs set created_at = now() - interval '400 days'");
  await asked("delete from artworks");
  expect(await asked("select * from artwork_halves")).toEqual([]);
});

import { type ArtworkView, type PhotoView, type PlaceView, type ThingView } from "@hardline/contract";
import sharp from "sharp";
import { ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
beforeAll(async () => {
  program = await startProgram(await newDatabase(), ["--role=server"]);
});
afterAll(() => program?.stop());

const at = (path: string) => `${program.url}/api/${path}`;
const post = (path: string, json: unknown) =>
  fetch(at(path), {
    method: "POST",
    body: JSON.stringify(json),
    headers: { "Content-Type": "application/json" },
  });
const detail = async (response: Response) => ((await response.json()) as { detail: string }).detail;

async function artworkOf(body: Buffer, name: string): Promise<ArtworkView> {
  const answer = await fetch(at(`artworks?name=${name}`), {
    method: "POST",
    body: new Uint8Array(body),
    headers: { "Content-Type": "application/octet-stream" },
  });
  return (await answer.json()) as ArtworkView;
}
const photo = (colour: string) =>
  sharp({ create: { width: 90, height: 60, channels: 3, background: colour } })
    .png()
    .toBuffer();

const area = {
  kind: "flat",
  corners: [
    [0.1, 0.1],
    [0.9, 0.1],
    [0.9, 0.9],
    [0.1, 0.9],
  ],
  widthMm: 200,
};

test("a photograph is an artwork that is kept, once, and named by its file", async () => {
  const artwork = await artworkOf(await photo("#88a0b0"), "bag.png");
  const first = (await (await post("photos", { artworkId: artwork.id })).json()) as PhotoView;
  expect(first).toMatchObject({ artworkId: artwork.id, name: "bag.png", width: 90, height: 60 });
  expect(first.key).toBe(artwork.sha256);
  expect(await (await post("photos", { artworkId: artwork.id })).json()).toEqual(first);
  expect(await ask(at(`photos/${first.key}`))).toEqual(first);
  expect((await fetch(at(`photos/${"0".repeat(64)}`))).status).toBe(404);
  expect((await fetch(at("photos/..%2Fetc"))).status).toBe(400);
  const drawing = await artworkOf(
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0h9v9z"/></svg>'),
    "a.svg",
  );
  const refused = await post("photos", { artworkId: drawing.id });
  expect([refused.status, await detail(refused)]).toEqual([
    400,
    "A photograph of one thing is wanted; this is a drawing, or has several pages.",
  ]);
});

test("a thing is kept by name, another of that name takes its place, and what makes no sense is refused by name", async () => {
  const artwork = await artworkOf(await photo("#705030"), "mug.png");
  const { key } = (await (await post("photos", { artworkId: artwork.id })).json()) as PhotoView;
  const thing = { photo: key, widthPx: 90, heightPx: 60, area };
  const kept = (await (await post("things", { name: "Our bag", thing })).json()) as ThingView;
  expect(kept.thing).toMatchObject({ name: "Our bag", smoothMm: 3, front: [] });
  const again = (await (
    await post("things", { name: "Our bag", thing: { ...thing, smoothMm: 5 } })
  ).json()) as ThingView;
  expect([again.id, again.thing.smoothMm]).toEqual([kept.id, 5]);
  expect(await ask<ThingView[]>(at("things"))).toHaveLength(1);
  const refuse = async (body: object): Promise<string> => {
    const answer = await post("things", body);
    expect(answer.status).toBe(400);
    return detail(answer);
  };
  expect(await refuse({ name: "x", thing: { ...thing, photo: "none" } })).toContain(
    "the SHA-256 of a photograph's file",
  );
  expect(await refuse({ name: "x", thing: { ...thing, area: { ...area, corners: [] } } })).toContain(
    "area.corners is []",
  );
  expect(await refuse({ name: "", thing })).toContain("name");
  expect((await post("things", { name: "x", thing: { ...thing, photo: "1".repeat(64) } })).status).toBe(404);
  expect((await fetch(at(`things/${kept.id}`), { method: "DELETE" })).status).toBe(204);
  expect((await fetch(at(`things/${kept.id}`), { method: "DELETE" })).status).toBe(404);
  expect(await ask(at("things"))).toEqual([]);
});

test("places of the shop's own are kept by area and name", async () => {
  const place = { name: "over the heart", area: "Front", at: [88, 60] };
  const kept = (await (await post("places", place)).json()) as PlaceView;
  expect(kept).toMatchObject(place);
  await post("places", { ...place, at: [90, 62] });
  expect(await ask<PlaceView[]>(at("places"))).toEqual([{ ...kept, at: [90, 62] }]);
  expect((await post("places", { ...place, at: [90] })).status).toBe(400);
  expect((await post("places", { ...place, at: [90, 1e6] })).status).toBe(400);
  expect((await fetch(at(`places/${kept.id}`), { method: "DELETE" })).status).toBe(204);
});

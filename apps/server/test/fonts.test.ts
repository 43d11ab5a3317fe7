import { type FontView } from "@hardline/contract";
import { shippedFont } from "@hardline/fonts";
import { newDatabase, startProgram, type Program } from "../../../e2e/src/harness";
import { ask } from "../../../e2e/src/harness";

let program: Program;
beforeAll(async () => {
  program = await startProgram(await newDatabase(), ["--role=server"]);
});
afterAll(() => program?.stop());

const send = (body: Uint8Array<ArrayBuffer>) =>
  fetch(`${program.url}/api/fonts`, {
    method: "POST",
    body,
    headers: { "Content-Type": "application/octet-stream" },
  });
const list = () => ask<FontView[]>(`${program.url}/api/fonts`);
const own = async (key: string) => new Uint8Array([...(await shippedFont(key)), 0, 0, 0, 0]);

test("ten fonts ship, each with its licence, and are served", async () => {
  const fonts = await list();
  expect(fonts.filter((f) => f.ships)).toHaveLength(10);
  for (const { key, licence } of fonts) {
    expect(licence).toBeTruthy();
    const file = await fetch(`${program.url}/api/fonts/${key}/file`);
    expect(file.status).toBe(200);
    expect((await file.arrayBuffer()).byteLength).toBe((await shippedFont(key)).length);
  }
});

test("a font of the shop's own is taken in once, offered, and kept for routes when it is no longer", async () => {
  const bytes = await own("typewriter");
  const first = (await (await send(bytes)).json()) as FontView;
  const again = (await (await send(bytes)).json()) as FontView;
  expect(again.key).toBe(first.key);
  expect(first).toMatchObject({
    name: "Courier Prime Regular",
    ships: false,
    isLines: false,
    bytes: bytes.length,
  });
  expect((await list()).filter((f) => f.key === first.key)).toHaveLength(1);
  expect((await fetch(`${program.url}/api/fonts/${first.key}`, { method: "DELETE" })).status).toBe(204);
  expect((await list()).some((f) => f.key === first.key)).toBe(false);
  expect((await fetch(`${program.url}/api/fonts/${first.key}/file`)).status).toBe(200);
  expect((await fetch(`${program.url}/api/fonts/${first.key}`, { method: "DELETE" })).status).toBe(404);
  expect(((await (await send(bytes)).json()) as FontView).key).toBe(first.key);
});

test("one of single lines is known for it", async () => {
  const { isLines, name } = (await (await send(await own("engraver"))).json()) as FontView;
  expect({ isLines, name }).toEqual({ isLines: true, name: "Hard Line Engraver" });
});

test("broken ones are refused with the reason, and nothing is kept", async () => {
  const before = (await list()).length;
  const whole = await shippedFont("slab");
  const refused = async (bytes: Uint8Array): Promise<string> => {
    const response = await send(Uint8Array.from(bytes));
    expect(response.status).toBe(422);
    return ((await response.json()) as { detail: string }).detail;
  };
  expect(await refused(whole.subarray(0, whole.length >> 1))).toMatch(/cut off: its table/);
  expect(await refused(Buffer.from("wOF2and more"))).toMatch(/WOFF/);
  expect(await refused(Buffer.from("<svg xmlns='…'/>"))).toMatch(/no font/);
  // Every byte of the outlines' table gone: letters without outlines.
  const blank = Uint8Array.from(whole);
  const view = new DataView(blank.buffer);
  for (let k = 0; k < view.getUint16(4); k++) {
    const entry = 12 + 16 * k;
    if (Buffer.from(blank.subarray(entry, entry + 4)).toString() === "glyf")
      blank.fill(0, view.getUint32(entry + 8), view.getUint32(entry + 8) + view.getUint32(entry + 12));
  }
  expect(await refused(blank)).toMatch(/no outlines/);
  expect(await list()).toHaveLength(before);
});

test("a font that is not there is 404, a name that is none 400", async () => {
  expect((await fetch(`${program.url}/api/fonts/${"0".repeat(64)}/file`)).status).toBe(404);
  expect((await fetch(`${program.url}/api/fonts/..%2f..%2fetc/file`)).status).toBe(400);
});

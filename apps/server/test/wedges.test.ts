import {
  type ArtworkView,
  type CurveView,
  type MaterialView,
  type RouteView,
  type TicketView,
} from "@hardline/contract";
import { writeRgbaPng } from "@hardline/core/format/png";
import { deviationsFrom, routeFor } from "@hardline/core/material/material";
import { runToEnd } from "@hardline/core/maths/work";
import { newRgba } from "@hardline/core/raster/types";
import { type Plates } from "@hardline/core/result/result";
import { readRoute, settingsOf } from "@hardline/core/route/route";
import { Runner } from "@hardline/core/route/runner";
import { answered, ANSWERS_OF } from "@hardline/core/simulator/answer";
import { photographed } from "@hardline/core/simulator/photograph";
import { drawWedge } from "@hardline/core/wedge/layout";
import { wedgeRoute } from "@hardline/core/wedge/wedge";
import { ask, newDatabase, startProgram, type Program } from "../../../e2e/src/harness";

let program: Program;
beforeAll(async () => {
  program = await startProgram(await newDatabase(), ["--role=server"]);
});
afterAll(() => program?.stop());
const url = (path: string) => `${program.url}${path}`;
const slate = () =>
  ask<MaterialView[]>(url("/api/materials")).then((all) => all.find((m) => m.key === "slate")!);

async function upload(png: Uint8Array): Promise<string> {
  const response = await fetch(url("/api/artworks?name=photo.png"), {
    method: "POST",
    body: png as Uint8Array<ArrayBuffer>,
  });
  return ((await response.json()) as ArtworkView).id;
}

/** A photograph of the wedge as slate takes it. */
async function photo(): Promise<Uint8Array> {
  const material = await slate();
  const gray = drawWedge(material.dotsPerInch);
  const colour = newRgba(gray.width, gray.height);
  gray.data.forEach((g, i) => colour.data.set([g, g, g, 255], 4 * i));
  const facts = { sha256: "0".repeat(64), width: gray.width, height: gray.height, vector: false };
  const results = await new Runner({}).run(wedgeRoute(material), { facts, pixels: async () => colour });
  const { bits } = (results[results.length - 1].result as Plates).plates[0];
  const marks = runToEnd(answered(bits, material.dotsPerInch, ANSWERS_OF.slate));
  return runToEnd(
    writeRgbaPng(runToEnd(photographed(marks, { bare: 0x3f444a, marked: 0xb9bcbc }, 1300, 6)), 72),
  );
}

test("a wedge is a ticket; its photograph becomes a version of the curve and the material's limits; a route is moved over", async () => {
  const ticket = await ask<TicketView>(url("/api/materials/slate/wedge"), "POST");
  expect(ticket.piece).toBe("Step wedge, Slate");
  const { route } = await ask<RouteView>(url(`/api/routes/${ticket.routes[0].id}`));
  expect(settingsOf(route, "size")).toMatchObject({ resample: "none", dotsPerInch: 254 });

  const curve = await ask<CurveView>(
    url(`/api/materials/slate/curves/photo/${await upload(await photo())}`),
    "POST",
  );
  expect([curve.version, curve.from, curve.readings.length]).toEqual([1, "photograph", 21]);
  expect(curve.errorPercent).toBeLessThan(1);
  const material = await slate();
  expect(material.curve!.version).toBe(1);
  expect(material.dotMm).toBe(curve.held!.dotMm ?? material.dotMm);
  expect(material.version).toBe(2);

  const plain = readRoute({
    ...{ format: "hard-line-route", version: 1, name: "Old" },
    stages: [{ stage: "size", widthMm: 40 }, { stage: "blackWhite" }],
  });
  const without = routeFor(plain, { ...material, curve: null });
  expect(deviationsFrom(without, material).map((d) => [d.what, d.now])).toContainEqual(["curve", "none"]);
  const over = routeFor(without, material);
  expect(settingsOf(over, "blackWhite")).toMatchObject({ gain: curve.points });
  expect(deviationsFrom(over, material).map((d) => d.what)).not.toContain("curve");
});

test("typed readings are another version; nonsense is refused with why", async () => {
  const readings = [
    [10, 20],
    [30, 45],
    [50, 66],
    [80, 92],
  ];
  const curve = await ask<CurveView>(url("/api/materials/slate/curves"), "POST", { readings });
  expect([curve.version, curve.from, curve.held]).toEqual([2, "typed", null]);
  expect((await ask<CurveView[]>(url("/api/materials/slate/curves"))).map((c) => c.version)).toEqual([2, 1]);
  const refused = (given: unknown) => ask(url("/api/materials/slate/curves"), "POST", { readings: given });
  await expect(
    refused([
      [10, 20],
      [10, 30],
      [50, 60],
    ]),
  ).rejects.toThrow(/each step once; 10 % is there twice/);
  await expect(
    refused([
      [10, 20],
      [30, 130],
      [50, 60],
    ]),
  ).rejects.toThrow(/readings\.1\.1 is 130; allowed: 100 or less/);
  await expect(
    refused([
      [0, 0],
      [50, 60],
      [100, 100],
    ]),
  ).rejects.toThrow(/1 readings between bare and full/);
  await expect(ask(url("/api/materials/moss/wedge"), "POST")).rejects.toThrow("There is no material moss");
  const blank = runToEnd(
    writeRgbaPng({ width: 400, height: 300, data: new Uint8Array(480000).fill(200) }, 72),
  );
  await expect(ask(url(`/api/materials/slate/curves/photo/${await upload(blank)}`), "POST")).rejects.toThrow(
    /corner marks were found/,
  );
});

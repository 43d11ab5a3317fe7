import { THING_PHOTOGRAPHS, thingPhotograph, type ThingPhotograph } from "@hardline/demo";
import { runToEnd } from "@hardline/core/maths/work";
import { measuredArea, type PhotoArea } from "@hardline/core/mockUp/photoArea";
import { readyPhotos } from "@hardline/core/mockUp/photos";
import { type Point } from "@hardline/core/mockUp/surface";
import { THINGS } from "@hardline/core/mockUp/things";
import { asItIs } from "@hardline/core/result/finish";
import { type Picture } from "@hardline/core/result/result";
import { viewOf } from "@hardline/core/result/view";
import { mockUp } from "@hardline/core/stage/mockUp/mockUp";
import { mockUpSettings } from "@hardline/core/stage/mockUp/settings";

/*
 * Prints on photographs of things beside the same things photographed with the print on them. Handles are placed to the
 * nearest half pixel, as a hand places them with care.
 */

/** A hand's care, in pixels. */
const CARE = 0.5;

const NOTHING = { get: () => undefined, set: () => undefined };

/** The area as a hand sets it up on the photograph. */
function setUp({ kind, seen, widthMm, heightMm, diameterMm, bare }: ThingPhotograph): PhotoArea {
  const at = (x: number, y: number): [number, number] => {
    const [u, v] = seen(x, y);
    return [(Math.round(u / CARE) * CARE) / bare.width, (Math.round(v / CARE) * CARE) / bare.height];
  };
  const half = widthMm / 2;
  if (kind === "round") {
    const curve = (y: number) => [at(-half, y), at(0.08 * widthMm, y), at(half, y)];
    return { kind, upper: curve(0), lower: curve(heightMm), diameterMm };
  }
  if (kind === "flat")
    return {
      kind,
      corners: [at(-half, 0), at(half, 0), at(half, heightMm), at(-half, heightMm)],
      widthMm,
      heightMm,
    };
  return {
    kind,
    points: [0, 0.5, 1].flatMap((v) => [-half, 0, half].map((x) => at(x, v * heightMm))),
    widthMm,
    heightMm,
  };
}

interface Row {
  readonly name: string;
  readonly unseen: boolean;
  readonly mm: number;
  readonly px: number;
  readonly light: number;
  readonly found: number;
}

async function rowOf(index: number): Promise<Row> {
  const scene = thingPhotograph(index);
  const area = setUp(scene);
  const { bare, printed, seen, art, artMm, at, name, unseen } = scene;
  const measured = measuredArea(area, bare)!;
  let [mm, px] = [0, 0];
  const into = new Float64Array(2);
  for (let i = 0; i <= 8; i++)
    for (let j = 0; j <= 8; j++) {
      const [x, y] = [at[0] + (i / 8 - 0.5) * artMm[0], at[1] + (j / 8) * artMm[1]];
      const want: Point = seen(x, y);
      const got = measured.surface.seen(x, y)!;
      px = Math.max(px, Math.hypot(got[0] - want[0], got[1] - want[1]));
      measured.surface.at(...want, into);
      mm = Math.max(mm, Math.hypot(into[0] - x, into[1] - y));
    }
  const key = index.toString(16).padStart(64, "0");
  await readyPhotos([key], { photo: async () => bare });
  const off = (cloth: string | undefined): number => {
    const settings = mockUpSettings.parse({
      thing: { photo: key, widthPx: bare.width, heightPx: bare.height, area, ...(cloth ? { cloth } : {}) },
      prints: [{ at: [at[0], at[1]], scale: 1 }],
      widthPx: bare.width,
    });
    const place = asItIs(art);
    const finish = {
      ...place.finish,
      widthMm: artMm[0],
      heightMm: artMm[1],
      dotsPerInch: (25.4 * art.width) / artMm[0],
    };
    const picture: Picture = { kind: "picture", ...place, finish, colour: art, cleared: null };
    const facts = { sha256: "", width: art.width, height: art.height, vector: false };
    const made = runToEnd(
      mockUp.run!({ art: picture }, settings, { facts, place: { ...place, finish }, keep: NOTHING }),
    );
    const part = { x: 0, y: 0, width: bare.width, height: bare.height };
    const own = runToEnd(viewOf(made, { part, width: bare.width, height: bare.height, base: 0 }));
    return meanOff(own.data, printed.data, bare.data);
  };
  return { name, unseen, mm, px, light: off(scene.cloth), found: off(undefined) };
}

/** Mean difference in codes over the pixels that the print changed. */
function meanOff(own: Uint8Array, want: Uint8Array, bare: Uint8Array): number {
  let [sum, count] = [0, 0];
  for (let o = 0; o < own.length; o += 4) {
    const changed = [0, 1, 2].some((c) => Math.abs(want[o + c] - bare[o + c]) > 6);
    if (!changed) continue;
    for (let c = 0; c < 3; c++) sum += Math.abs(own[o + c] - want[o + c]);
    count += 3;
  }
  return sum / count;
}

/** How long a thing of ten million pixels takes, and a picture while a hand moves the print, beside each other. */
function times(): void {
  console.log(
    "\nthing             10 million pixels, s   one picture of a drag at 1 million, ms (median of 15)",
  );
  const side = 1400;
  const colour = { width: side, height: side, data: new Uint8Array(4 * side * side).fill(140) };
  const place = asItIs(colour);
  const finish = { ...place.finish, widthMm: 250, heightMm: 250, dotsPerInch: (25.4 * side) / 250 };
  const picture: Picture = { kind: "picture", ...place, finish, colour, cleared: null };
  const facts = { sha256: "", width: side, height: side, vector: false };
  for (const { id } of THINGS.filter((t) =>
    ["t-shirt-front", "hooded-front", "mug", "tote-bag", "coaster"].includes(t.id),
  )) {
    const run = (more: object) =>
      runToEnd(
        mockUp.run!({ art: picture }, mockUpSettings.parse({ thing: id, ...more }), {
          facts,
          place: { ...place, finish },
          keep: NOTHING,
        }),
      );
    const shape = run({ widthPx: 1000 }).finish;
    const width = Math.round(Math.sqrt((10e6 * shape.widthMm) / shape.heightMm));
    const large = run({ widthPx: Math.min(6000, width) });
    const part = { x: 0, y: 0, width: large.finish.widthPx, height: large.finish.heightPx };
    const look = (of: typeof large, w: number) =>
      viewOf(of, { part, width: w, height: Math.round((w * part.height) / part.width), base: 0 });
    runToEnd(look(large, 300));
    let began = performance.now();
    runToEnd(look(large, part.width));
    const whole = (performance.now() - began) / 1000;
    const small = Math.round(Math.sqrt((1e6 * shape.widthMm) / shape.heightMm));
    const each: number[] = [];
    for (let k = 0; k < 16; k++) {
      const moved = { ...large, prints: [{ at: [k, 70] as const, turn: 0, scale: 1 }] };
      began = performance.now();
      runToEnd(look(moved, small));
      each.push(performance.now() - began);
    }
    const median = each.slice(1).sort((a, b) => a - b)[7];
    console.log(`${id.padEnd(18)}${whole.toFixed(2).padStart(10)}${median.toFixed(1).padStart(30)}`);
  }
}

async function main(): Promise<void> {
  const rows: Row[] = [];
  console.log(
    "photograph   off by mm   off by px   light, its colour told   its colour found   (codes of 255, mean)",
  );
  for (let k = 0; k < THING_PHOTOGRAPHS; k++) {
    const row = await rowOf(k);
    rows.push(row);
    const { name, unseen, mm, px, light, found } = row;
    console.log(
      `${(name + (unseen ? " *" : "")).padEnd(13)}${mm.toFixed(3).padStart(9)}${px.toFixed(2).padStart(12)}${light.toFixed(2).padStart(20)}${found.toFixed(2).padStart(20)}`,
    );
  }
  for (const [words, some] of [
    ["seen", rows.filter((r) => !r.unseen)],
    ["unseen *", rows.filter((r) => r.unseen)],
  ] as const) {
    const count = (of: (r: Row) => boolean): string => `${some.filter(of).length} of ${some.length}`;
    console.log(
      `${words}: within 0.5 mm ${count((r) => r.mm <= 0.5)}, within 1 px ${count((r) => r.px <= 1)}, light within 4 ${count((r) => r.light <= 4)} told, ${count((r) => r.found <= 4)} found`,
    );
  }
  times();
}

void main();

import { solverOf } from "../film/amountCorners";
import { AmountTable } from "../film/amountTable";
import { lightOf, type Light } from "../film/model";
import { runToEnd, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { resampleRgba } from "../resample/resample";
import { seeded } from "../maths/seeded";
import { SHAREABLE } from "./shareable";
import { joinIn, lend, roomFor } from "../hands/shareOut";

afterEach(() => lend(null));

function picture(width: number, height: number, seeThrough: boolean): Rgba {
  const random = seeded(7);
  const data = new Uint8Array(roomFor(width * height * 4));
  for (let i = 0; i < data.length; i++) data[i] = random() * 256;
  if (!seeThrough) for (let i = 3; i < data.length; i += 4) data[i] = 255;
  return { width, height, data };
}

/** Runs a computation while another thread helps, some steps of it for each of its own; counts the parts it brought. */
function helped<T>(work: () => Work<T>, pace: number): { result: T; others: number } {
  const joined: { work: Work<void>; claims: Int32Array }[] = [];
  const done = (claims: Int32Array): number => claims.subarray(1).reduce((sum, c) => sum + c, 0);
  let others = 0;
  lend({ join: (job) => joined.push({ work: joinIn(job, SHAREABLE), claims: job.claims }) });
  for (const own = work(); ;) {
    const step = own.next();
    if (step.done) return { result: step.value, others };
    for (const { work: theirs, claims } of joined)
      for (let k = 0; k < pace; k++) {
        const before = done(claims);
        theirs.next();
        others += done(claims) - before;
      }
  }
}

test.each([
  ["opaque", false, 700, 500],
  ["see-through", true, 700, 500],
  ["made larger", false, 1300, 900],
] as const)(
  "a picture at another size is the same with helping hands: %s",
  (_, seeThrough, width, height) => {
    const alone = runToEnd(resampleRgba(picture(900, 640, seeThrough), width, height, "lanczos3"));
    lend({ join: () => undefined });
    const shared = picture(900, 640, seeThrough);
    for (const pace of [1, 4]) {
      const { result, others } = helped(() => resampleRgba(shared, width, height, "lanczos3"), pace);
      expect(Buffer.compare(result.data, alone.data)).toBe(0);
      expect(others).toBeGreaterThan(0);
    }
  },
);

test("so are the amounts of inks", () => {
  const layers = [0xffffff, 0x303fb0, 0x2f7fc1, 0x15181d].map((colour) => ({
    ...{ colour, light: lightOf(colour), opacity: 0.9 },
  }));
  const wish = {
    garment: lightOf(0x202020),
    layers,
    given: [{ kind: "highlight", from: 0.7 }, undefined, undefined, { kind: "black", most: 0.8 }],
  } as const;
  const { data } = picture(64, 64, false);
  const colours = new Uint32Array(data.buffer);
  const planes = () => {
    const solver = solverOf(wish);
    const solve = (light: Light, out: Float64Array) => solver.solve(light, out);
    return new AmountTable(solve, layers.length, 13, [0x202020], undefined, wish).planesOf(colours);
  };
  const alone = runToEnd(planes());
  expect(new Set(alone[1]).size).toBeGreaterThan(20);
  for (const pace of [1, 3]) {
    const { result, others } = helped(planes, pace);
    expect(result).toEqual(alone);
    expect(others).toBeGreaterThan(0);
  }
});

import { runToEnd } from "../maths/work";
import { boxTurnedOn, NO_TURN, pointTurnedOn, turnedOn, turnedSize, type Quarter, type Turn } from "./turn";
import { turned } from "./turned";
import { type Rgba } from "../raster/types";

const letters = (rows: string[]) => ({
  width: rows[0].length,
  height: rows.length,
  data: Uint8Array.from(
    rows
      .join("")
      .split("")
      .flatMap((c) => [c.charCodeAt(0), 0, 0, 255]),
  ),
});
const read = (picture: { width: number; data: Uint8Array }): string[] => {
  const text = Array.from({ length: picture.data.length / 4 }, (_, i) =>
    String.fromCharCode(picture.data[i * 4]),
  ).join("");
  return text.match(new RegExp(`.{${picture.width}}`, "g"))!;
};
const PAGE = letters(["abc", "def"]);

test.each<[Partial<Turn>, string[]]>([
  [{ turn: 90 }, ["da", "eb", "fc"]],
  [{ turn: 180 }, ["fed", "cba"]],
  [{ turn: 270 }, ["cf", "be", "ad"]],
  [{ mirror: true }, ["cba", "fed"]],
  [{ turn: 90, mirror: true }, ["ad", "be", "cf"]],
  [{ turn: 180, mirror: true }, ["def", "abc"]],
])("%j", (how, rows) => {
  const out = runToEnd(turned(PAGE, { ...NO_TURN, ...how }));
  expect(read(out)).toEqual(rows);
  expect(turnedSize(PAGE, { ...NO_TURN, ...how })).toEqual({ width: out.width, height: out.height });
});

test("further turns of what is seen are the turns of what was seen", () => {
  const all: Quarter[] = ["right", "left", "mirrored", "upside down"];
  let now = NO_TURN;
  let seen: Rgba = PAGE;
  for (const further of [
    ...all,
    ...all.reverse(),
    "right",
    "mirrored",
    "right",
    "upside down",
    "left",
  ] as Quarter[]) {
    const alone = turnedOn(NO_TURN, further);
    seen = runToEnd(turned(seen, alone));
    now = turnedOn(now, further);
    expect(read(runToEnd(turned(PAGE, now)))).toEqual(read(seen));
  }
});

test("points and boxes go where their pixels go", () => {
  for (const further of ["right", "left", "mirrored", "upside down"] as Quarter[]) {
    const after = runToEnd(turned(PAGE, turnedOn(NO_TURN, further)));
    for (let y = 0; y < 2; y++)
      for (let x = 0; x < 3; x++) {
        const [u, v] = pointTurnedOn([(x + 0.5) / 3, (y + 0.5) / 2], further);
        expect(read(after)[Math.floor(v * after.height)][Math.floor(u * after.width)]).toBe(read(PAGE)[y][x]);
      }
    const box = boxTurnedOn([0.1, 0.2, 0.3, 0.4], further);
    expect(box[2] * box[3]).toBeCloseTo(0.12, 9);
    expect(
      boxTurnedOn(
        box,
        { right: "left", left: "right", mirrored: "mirrored", "upside down": "upside down" }[
          further
        ] as Quarter,
      ),
    ).toEqual([0.1, 0.2, 0.3, 0.4]);
  }
});

/** Black and white halves on either side of a line through the middle, so many degrees from upright. */
function halves(degrees: number, side: number) {
  const data = new Uint8Array(side * side * 4).fill(255);
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      const d = (x + 0.5 - side / 2) * c + (y + 0.5 - side / 2) * s;
      const cover = Math.min(1, Math.max(0, d + 0.5));
      const v = Math.round(255 * Math.sqrt(cover)); // about the light of a half-covered pixel
      data.set([v, v, v, 255], (y * side + x) * 4);
    }
  return { width: side, height: side, data };
}

test.each([3, -7.4])(
  "straightened by %d degrees, a slanted edge stands upright and the corners are clear",
  (degrees) => {
    const out = runToEnd(turned(halves(-degrees, 200), { ...NO_TURN, straighten: degrees }));
    expect({ width: out.width, height: out.height }).toEqual(
      turnedSize({ width: 200, height: 200 }, { ...NO_TURN, straighten: degrees }),
    );
    // the column where each row turns from black to white, over the middle of the picture
    const edges: number[] = [];
    for (let y = 40; y < out.height - 40; y++) {
      let x = 0;
      while (out.data[(y * out.width + x) * 4 + 3] < 255 || out.data[(y * out.width + x) * 4] < 128) x++;
      edges.push(x);
    }
    expect(Math.max(...edges) - Math.min(...edges)).toBeLessThanOrEqual(1);
    expect(Math.abs(edges[0] - out.width / 2)).toBeLessThanOrEqual(1.5);
    for (const i of [0, out.width - 1, out.width * (out.height - 1), out.width * out.height - 1])
      expect(out.data[i * 4 + 3]).toBe(0);
  },
);

test("a plain area stays exactly what it was, straightened", () => {
  const plain = {
    width: 40,
    height: 30,
    data: Uint8Array.from({ length: 4800 }, (_, i) => [90, 140, 200, 255][i % 4]),
  };
  const out = runToEnd(turned(plain, { ...NO_TURN, straighten: 5 }));
  const middle = ((out.height >> 1) * out.width + (out.width >> 1)) * 4;
  expect(Array.from(out.data.subarray(middle, middle + 4))).toEqual([90, 140, 200, 255]);
});

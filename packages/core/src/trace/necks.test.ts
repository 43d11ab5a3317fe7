import { runToEnd } from "../maths/work";
import { type Gray } from "../raster/types";
import { inkPieces } from "./inkPieces";
import { mendBreaks } from "./breaks";
import { strongNecks } from "./necks";

/** Ink where a row of the drawing has #, paper elsewhere, with a rim of paper. */
function picture(...rows: string[]): Gray {
  const [width, height] = [rows[0].length + 16, rows.length + 16];
  const data = new Uint8Array(width * height).fill(255);
  rows.forEach((row, y) =>
    [...row].forEach((mark, x) => {
      if (mark === "#") data[(y + 8) * width + x + 8] = 0;
    }),
  );
  return { width, height, data };
}
const drawn = ({ width, height, data }: Gray): string[] =>
  Array.from({ length: height - 16 }, (_, y) =>
    Array.from({ length: width - 16 }, (_, x) => (data[(y + 8) * width + x + 8] < 128 ? "#" : ".")).join(""),
  );
const sizesIn = (gray: Gray): readonly number[] => runToEnd(inkPieces(gray)).sizes.slice(1);

test("pieces hang together over edges, not over corners", () => {
  expect(
    sizesIn(picture("##..", "##..", "..##", "..#."))
      .slice()
      .sort(),
  ).toEqual([3, 4]);
  expect(sizesIn(picture("####", "#..#", "####"))).toEqual([10]);
  expect(sizesIn(picture("....", "...."))).toEqual([]);
});

test("a stroke of single pixels gets a second beside it, and a wide one stays", () => {
  const thin = picture("##########");
  runToEnd(strongNecks(thin, 0, 20));
  const rows = thin.data.filter((grey) => grey < 128).length;
  // The two ends are no necks: nothing is parted without them.
  expect(rows).toBe(10 + 8);
  const wide = picture("######", "######", "######");
  const before = drawn(wide);
  runToEnd(strongNecks(wide, 0, 20));
  expect(drawn(wide)).toEqual(before);
});

test("a small piece that hangs on a stroke by one neck goes; one between two strokes stays", () => {
  const hanging = picture("....##....", "....##....", ".....#....", "##########", "##########", "##########");
  runToEnd(strongNecks(hanging, 6, 20));
  expect(drawn(hanging)).toEqual(["..........", "..........", "..........", ...Array(3).fill("##########")]);
  const between = picture(
    "##########",
    "##########",
    "....#.....",
    "....##....",
    "....##....",
    ".....#....",
    "##########",
    "##########",
  );
  runToEnd(strongNecks(between, 6, 20));
  expect(sizesIn(between)).toHaveLength(1);
});

test("a break is mended where the scan is dark in it, and not where it is paler than what it joins", () => {
  const broken = (): Gray => picture("########...########", "########...########", "########...########");
  const rowsWith = (grey: number): Gray => {
    const given = broken();
    return { ...given, data: given.data.map((v, i) => (isGap(given, i) ? grey : v === 0 ? 60 : 255)) };
  };
  const isGap = ({ width }: Gray, i: number): boolean => {
    const [x, y] = [(i % width) - 8, Math.floor(i / width) - 8];
    return x >= 8 && x < 11 && y >= 0 && y < 3;
  };
  // Ends hold 195 of ink, four fifths of which are 156: greys up to 99.
  for (const [grey, pieces] of [
    [80, 1],
    [99, 1],
    [100, 2],
    [200, 2],
  ]) {
    const fine = broken();
    runToEnd(mendBreaks(fine, rowsWith(grey), 30, 10, 40));
    expect(sizesIn(fine)).toHaveLength(pieces);
  }
  const grains = broken();
  runToEnd(mendBreaks(grains, rowsWith(80), 30, 25, 40));
  expect(sizesIn(grains)).toHaveLength(2);
});

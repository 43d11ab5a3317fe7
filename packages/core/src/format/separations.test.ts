import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { runToEnd } from "../maths/work";
import { rectangleKnots } from "../path/outline";
import { pathSetOf, type PathSet } from "../path/pathSet";
import { newRgba, type Rgba } from "../raster/types";
import { packedBytes, packedPlanes } from "./pack";
import { writePathsPdf } from "./pathsPdf";
import { writeTransferPdf } from "./transferPdf";

/* Pages parted into inks by another program, as a printer's own would do it: amounts of ink, 0 to 255, pixel by pixel. */
const [WIDTH, HEIGHT, DPI] = [96, 64, 254];
const [widthMm, heightMm] = [WIDTH / 10, HEIGHT / 10];

async function separated(pdf: Uint8Array): Promise<Record<string, Uint8Array>> {
  const folder = mkdtempSync(join(tmpdir(), "separations-"));
  try {
    writeFileSync(join(folder, "page.pdf"), pdf);
    execFileSync("gs", [
      ...["-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", `-r${DPI}`, "-dTextAlphaBits=1"],
      ...[`-sOutputFile=${join(folder, "ink.tif")}`, join(folder, "page.pdf")],
    ]);
    const inks: Record<string, Uint8Array> = {};
    for (const file of readdirSync(folder)) {
      const ink = /^ink\((.*)\)\.tif$/.exec(file)?.[1];
      if (!ink) continue;
      const { data, info } = await sharp(readFileSync(join(folder, file)))
        .toColourspace("b-w")
        .raw()
        .toBuffer({ resolveWithObject: true });
      expect([info.width, info.height]).toEqual([WIDTH, HEIGHT]);
      inks[ink] = data.map((v) => 255 - v);
    }
    return inks;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** A disc that fades out to the right, over nothing. */
function art(): Rgba {
  const picture = newRgba(WIDTH, HEIGHT);
  for (let y = 0, o = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, o += 4) {
      const inside = (x - 48) * (x - 48) + (y - 32) * (y - 32) < 28 * 28;
      picture.data.set([200, 40, 30, inside ? Math.max(0, 255 - 4 * Math.max(0, x - 40)) : 0], o);
    }
  return picture;
}
/** Every level of white, and none at the rim. */
const white = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => {
  const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
  return x < 8 || y < 8 || x >= WIDTH - 8 || y >= HEIGHT - 8 ? 0 : (x * 7 + y * 13) % 256;
});
const alone = async (picture: Rgba, plane: Uint8Array) =>
  separated(
    await writeTransferPdf(
      { picture, ...runToEnd(packedPlanes(picture)) },
      { width: WIDTH, height: HEIGHT, bytes: runToEnd(packedBytes(plane)) },
      widthMm,
      heightMm,
    ),
  );
const most = (a: Uint8Array, b: Uint8Array) => a.reduce((m, v, i) => Math.max(m, Math.abs(v - b[i])), 0);

test("a transfer's white comes out of the page as it was worked out, to the level, under art and beside it", async () => {
  const inks = await alone(art(), white);
  expect(most(inks.White, white)).toBeLessThanOrEqual(1);
});

test("the art's own inks are as they are without white", async () => {
  const [withWhite, without] = [await alone(art(), white), await alone(art(), new Uint8Array(white.length))];
  for (const ink of ["Cyan", "Magenta", "Yellow", "Black"])
    expect([ink, most(withWhite[ink], without[ink])]).toEqual([ink, 0]);
  expect(Math.max(...without.Magenta)).toBeGreaterThan(150);
});

test("lines that a machine follows take nothing away from the art below, or from lines that they cross", async () => {
  const whole = newRgba(WIDTH, HEIGHT);
  for (let o = 0; o < whole.data.length; o += 4) whole.data.set([200, 40, 30, 255], o);
  const box = { x: 0, y: 0, width: widthMm, height: heightMm };
  const under = { picture: whole, ...runToEnd(packedPlanes(whole)), ...box };
  const line = (name: string, use: PathSet["use"], x: number, y: number, w: number, h: number) =>
    pathSetOf({ name, use, colour: 0xd01010 }, [{ knots: rectangleKnots(x, y, w, h), closed: true }]);
  const cut = line("Cut", "through", 1.05, 1.05, 5, 4);
  const fold = line("Fold", "score", 3.05, 2.05, 5, 3);
  const [both, art1, onlyCut] = await Promise.all([
    writePathsPdf([cut, fold], box, under).then(separated),
    writePathsPdf([], box, under).then(separated),
    writePathsPdf([cut], box, under).then(separated),
  ]);
  expect(both.Cut.some((v) => v === 255)).toBe(true);
  expect(both.Fold.some((v) => v === 255)).toBe(true);
  expect(most(both.Cut, onlyCut.Cut)).toBe(0);
  for (const ink of ["Cyan", "Magenta", "Yellow", "Black"])
    expect([ink, most(both[ink], art1[ink])]).toEqual([ink, 0]);
});

import { cielabOf, ciede2000 } from "@hardline/core/colour/ciede2000";
import { LINEAR_OF_CODE } from "@hardline/core/colour/srgb";
import { lightOf, laidOn, printedLight } from "@hardline/core/film/model";
import { bitAt } from "@hardline/core/raster/types";
import { DARK_SIDE, darkPictures, type DarkPicture } from "./darkPictures";
import { filmsOf } from "./filmTable";

/** 95 of 100 places are off by less, in CIEDE2000. */
const ASKED = 8;
const INKS = 6;
/** Dots are averaged over so many pixels of the picture each way: some cells of the screen. */
const SEEN_AT_ONCE = 26;

/**
 * Nearly black pictures in six inks on white: how far the print is off the picture, pixel by pixel as the tones say, and as
 * its dots say, averaged over squares.
 *
 * @returns how many are beyond what is asked
 */
export async function measureDark(): Promise<number> {
  console.log(
    "\n| dark picture, six inks on white | tones off, ΔE2000: mean, p95 (asked 8) | dots, averaged |",
  );
  console.log("| --- | ---: | ---: |");
  let missed = 0;
  for (const one of darkPictures()) {
    const { tones, dots } = await measured(one);
    const p95 = at(tones, 0.95);
    if (p95 > ASKED) missed++;
    const mean = tones.reduce((a, b) => a + b, 0) / tones.length;
    console.log(
      `| ${one.name}${one.unseen ? " (set no rule)" : ""} | ${mean.toFixed(2)}, ${p95.toFixed(2)} | ${at(dots, 0.95).toFixed(2)} |`,
    );
  }
  return missed;
}

const at = (list: readonly number[], share: number): number =>
  [...list].sort((a, b) => a - b)[Math.floor(share * (list.length - 1))];

async function measured({ picture }: DarkPicture): Promise<{ tones: number[]; dots: number[] }> {
  const { plates, print } = await filmsOf(picture, { separate: "tonal", garment: "#ffffff", inks: INKS });
  const { tones, garment, inks } = print!;
  const ground = lightOf(garment);
  const layers = plates.map(({ ink }, k) => ({ light: lightOf(ink), opacity: inks[k].opacity }));
  const wanted = (i: number): number[] => [0, 1, 2].map((c) => LINEAR_OF_CODE[picture.data[4 * i + c]]);
  const off: number[] = [];
  const out = new Float64Array(3);
  for (let i = 0; i < DARK_SIDE * DARK_SIDE; i += 3) {
    const amounts = tones.map(({ data }) => (255 - data[i]) / 255);
    printedLight(ground, layers, amounts, out);
    off.push(difference([...out], wanted(i)));
  }
  const fine = plates[0].bits.width / DARK_SIDE;
  const dots: number[] = [];
  for (let top = 0; top + SEEN_AT_ONCE <= DARK_SIDE; top += SEEN_AT_ONCE)
    for (let left = 0; left + SEEN_AT_ONCE <= DARK_SIDE; left += SEEN_AT_ONCE) {
      const [printed, drawn] = [new Mean(), new Mean()];
      for (let y = Math.round(top * fine); y < Math.round((top + SEEN_AT_ONCE) * fine); y++)
        for (let x = Math.round(left * fine); x < Math.round((left + SEEN_AT_ONCE) * fine); x++)
          printed.add(
            [0, 1, 2].map((c) =>
              layers.reduce(
                (light, layer, k) =>
                  bitAt(plates[k].bits, x, y) ? laidOn(light, layer.light[c], layer.opacity) : light,
                ground[c],
              ),
            ),
          );
      for (let y = top; y < top + SEEN_AT_ONCE; y++)
        for (let x = left; x < left + SEEN_AT_ONCE; x++) drawn.add(wanted(y * DARK_SIDE + x));
      dots.push(difference(printed.mean, drawn.mean));
    }
  return { tones: off, dots };
}

const difference = (a: readonly number[], b: readonly number[]): number =>
  ciede2000(cielabOf(a[0], a[1], a[2]), cielabOf(b[0], b[1], b[2]));

class Mean {
  private readonly sum = [0, 0, 0];
  private count = 0;

  add(light: readonly number[]): void {
    this.count++;
    for (let c = 0; c < 3; c++) this.sum[c] += light[c];
  }

  get mean(): number[] {
    return this.sum.map((s) => s / this.count);
  }
}

import { setText } from "../letters/setText";
import { type Rect } from "../raster/types";
import { type KnotPath } from "../path/pathSet";

export interface ProofWay {
  readonly name: string;
  readonly garment: number;
  readonly inks: readonly { readonly name: string; readonly colour: number }[];
  /** Width of its picture to its height, where that is not the same for all. */
  readonly aspect?: number;
}

export interface Proof {
  readonly title: string;
  readonly size: string;
  /** Width of the print to its height. */
  readonly aspect: number;
  readonly ways: readonly ProofWay[];
}

/** A proof laid out on a page: where everything stands, in mm from the page's top left. */
export interface ProofSheet {
  readonly widthMm: number;
  readonly heightMm: number;
  /** Where each way's picture lies, with the colour about it. */
  readonly pictures: readonly (Rect & { readonly ground: number; readonly about: Rect })[];
  readonly patches: readonly (Rect & { readonly colour: number })[];
  readonly words: readonly { readonly paths: readonly KnotPath[]; readonly colour: number }[];
}

/** A page of A4, lying. */
const [PAGE_W, PAGE_H, EDGE] = [297, 210, 12];
/** Colours of words. */
const INK = 0x15181d;
const SOFT = 0x5c5e61;

/** Lays colourways side by side: each on its garment, with its name and a patch of every ink. */
export function layProof({ title, size, aspect, ways }: Proof): ProofSheet {
  const columns = Math.ceil(Math.sqrt(ways.length * (1 / Math.max(0.4, Math.min(2.5, aspect))) * 1.2));
  const across = Math.max(1, Math.min(ways.length, columns));
  const down = Math.ceil(ways.length / across);
  const [top, gap, foot] = [26, 6, ways.some((w) => w.inks.length > 0) ? 15 : 8];
  const cellW = (PAGE_W - 2 * EDGE - (across - 1) * gap) / across;
  const cellH = (PAGE_H - top - EDGE - (down - 1) * gap) / down;
  const words: { paths: readonly KnotPath[]; colour: number }[] = [
    { paths: fitted(title, 5, EDGE, EDGE + 5, PAGE_W - 2 * EDGE), colour: INK },
    { paths: setText(size, 3, EDGE, EDGE + 10.5).paths, colour: SOFT },
  ];
  const pictures: ProofSheet["pictures"][number][] = [];
  const patches: ProofSheet["patches"][number][] = [];
  ways.forEach((way, k) => {
    const x = EDGE + (k % across) * (cellW + gap);
    const y = top + Math.floor(k / across) * (cellH + gap);
    const about = { x, y, width: cellW, height: cellH - foot };
    const [roomW, roomH] = [about.width - 6, about.height - 6];
    const own = way.aspect ?? aspect;
    const width = Math.min(roomW, roomH * own);
    const height = width / own;
    pictures.push({
      x: x + (cellW - width) / 2,
      y: y + (about.height - height) / 2,
      width,
      height,
      ground: way.garment,
      about,
    });
    const foots = y + cellH - foot;
    words.push({ paths: fitted(way.name, 3.2, x, foots + 5.4, cellW), colour: INK });
    const each = cellW / way.inks.length;
    way.inks.forEach((ink, n) => {
      const left = x + n * each;
      patches.push({ x: left, y: foots + 8, width: 3.4, height: 3.4, colour: ink.colour });
      words.push({
        paths: fitted(ink.name, 2, left + 4.4, foots + 10.6, Math.max(2, each - 5.4)),
        colour: SOFT,
      });
    });
  });
  return { widthMm: PAGE_W, heightMm: PAGE_H, pictures, patches, words };
}

/** A line of text, smaller where it would be longer than its room. */
function fitted(text: string, height: number, x: number, y: number, room: number): readonly KnotPath[] {
  const { width } = setText(text, height);
  return setText(text, height * Math.min(1, room / Math.max(width, 1e-9)), x, y).paths;
}

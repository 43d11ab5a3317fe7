import { cardPicture, photograph, rimPicture } from "./phonePictures";
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import sharp from "sharp";

/** A picture as a phone or scanner stores it. */
export interface PhoneFile {
  readonly name: string;
  readonly path: string;
  /** Which picture or page of it. */
  readonly page: number;
  /** Decoded by another program, as 8-bit sRGB with four channels; made when asked for. */
  readonly other: () => Promise<Buffer>;
  readonly unseen: boolean;
}

type Encoder = (from: string, to: string) => void;

const run = (program: string, ...args: string[]): Buffer =>
  execFileSync(program, args, { stdio: "pipe", maxBuffer: 1 << 28 });
const heic =
  (...args: string[]): Encoder =>
  (from, to) =>
    void run("heif-enc", ...args, from, "-o", to);
const avif =
  (...args: string[]): Encoder =>
  (from, to) =>
    void run("avifenc", ...args, from, to);
const jxl =
  (...args: string[]): Encoder =>
  (from, to) =>
    void run("cjxl", ...args, from, to);

interface Way {
  readonly name: string;
  readonly extension: "heic" | "avif" | "jxl";
  readonly encode: Encoder;
  readonly profile?: "p3";
  readonly deep?: true;
  readonly clear?: true;
  /** Turned in the file by so many degrees clockwise, which the other program leaves to others. */
  readonly turned?: number;
}

const WAYS: readonly Way[] = [
  { name: "HEIC, usual", extension: "heic", encode: heic("-q", "60") },
  { name: "HEIC, fine", extension: "heic", encode: heic("-q", "95") },
  {
    name: "HEIC, nothing lost",
    extension: "heic",
    encode: heic("-L", "-p", "chroma=444", "--matrix_coefficients=0"),
  },
  { name: "HEIC, Display P3", extension: "heic", encode: heic("-q", "80"), profile: "p3" },
  { name: "HEIC, 10 bits", extension: "heic", encode: heic("-q", "85", "-b", "10"), deep: true },
  {
    name: "HEIC, 10 bits, Display P3",
    extension: "heic",
    encode: heic("-q", "85", "-b", "10"),
    deep: true,
    profile: "p3",
  },
  { name: "HEIC with a small copy", extension: "heic", encode: heic("-q", "70", "-t", "160") },
  { name: "HEIC, see-through", extension: "heic", encode: heic("-q", "90"), clear: true },
  { name: "AVIF", extension: "avif", encode: avif("--min", "15", "--max", "25", "-s", "8") },
  {
    name: "AVIF, 10 bits",
    extension: "avif",
    encode: avif("-d", "10", "--min", "10", "--max", "20", "-s", "8"),
    deep: true,
  },
  {
    name: "AVIF, Display P3",
    extension: "avif",
    encode: avif("--min", "10", "--max", "20", "-s", "8"),
    profile: "p3",
  },
  {
    name: "AVIF, turned",
    extension: "avif",
    encode: avif("--irot", "1", "--min", "10", "--max", "20", "-s", "8"),
    turned: 270,
  },
  { name: "JPEG XL", extension: "jxl", encode: jxl("-d", "1") },
  { name: "JPEG XL, nothing lost", extension: "jxl", encode: jxl("-d", "0") },
  { name: "JPEG XL, Display P3", extension: "jxl", encode: jxl("-d", "0.5"), profile: "p3" },
  { name: "JPEG XL, 16 bits", extension: "jxl", encode: jxl("-d", "0"), deep: true },
  { name: "JPEG XL, see-through", extension: "jxl", encode: jxl("-d", "0"), clear: true },
];

/** Pictures as phones and scanners store them, by encoders of Debian; every third was not looked at while rules were set. */
export async function makePhoneFiles(folder: string): Promise<PhoneFile[]> {
  const pictures = [await photograph(), await cardPicture(), await rimPicture()];
  const files: PhoneFile[] = [];
  for (const [n, way] of WAYS.entries())
    for (const [k, picture] of pictures.entries()) {
      if (way.clear && picture.channels === 3) continue;
      // That program cannot write what is deep and see-through.
      if (way.deep && way.extension === "jxl" && picture.channels === 4) continue;
      const from = join(folder, `${n}-${k}.png`);
      const path = join(folder, `${n}-${k}.${way.extension}`);
      const image = sharp(picture.data, { raw: picture });
      const stored = way.deep ? image.toColourspace("rgb16") : image;
      await (way.profile ? stored.withIccProfile(way.profile) : stored).png().toFile(from);
      way.encode(from, path);
      const unseen = (n + k) % 3 === 2;
      files.push({
        name: `${way.name}, ${picture.what}`,
        ...{ path, page: 1, unseen },
        other: () => byAnother(path, way),
      });
    }
  return [...files, ...(await scans(folder))];
}

/** Pages of scanners, grey and deep. */
async function scans(folder: string): Promise<PhoneFile[]> {
  const path = join(folder, "scan.tif");
  const parts = await Promise.all(
    [0, 1, 2].map(async (k) => {
      const part = join(folder, `scan-${k}.png`);
      const { data, ...raw } = await cardPicture(k);
      const grey = sharp(data, { raw }).toColourspace("grey16");
      await grey.png().toFile(part);
      return part;
    }),
  );
  run("convert", ...parts, "-compress", "LZW", path);
  return [1, 2, 3].map((page) => ({
    name: `TIFF of three pages, 16-bit grey, page ${page}`,
    ...{ path, page, unseen: page === 3 },
    other: async () => asSrgb(run("convert", `${path}[${page - 1}]`, "png:-")),
  }));
}

async function byAnother(path: string, { extension, turned = 0 }: Way): Promise<Buffer> {
  const png = `${path}.png`;
  if (extension === "heic") run("heif-convert", path, png);
  else if (extension === "avif") run("avifdec", "-u", "bilinear", path, png);
  else run("djxl", path, png);
  return asSrgb(readFileSync(png), turned);
}

/** A PNG's pixels by the profile in it; without one they are sRGB. */
async function asSrgb(png: Buffer, turned = 0): Promise<Buffer> {
  const { hasProfile } = await sharp(png).metadata();
  const image = sharp(png).rotate(turned);
  const brought = hasProfile ? image.withIccProfile("srgb") : image.toColourspace("srgb");
  return brought.ensureAlpha().raw({ depth: "uchar" }).toBuffer();
}

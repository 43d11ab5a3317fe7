import { crc32, deflateSync } from "node:zlib";
import sharp from "sharp";
import { hostilePdfs, soundPdfs } from "./hostilePdfs";
import { hostilePhones, soundPhones } from "./hostilePhones";
import { chance } from "./table";

export interface HostileFile {
  readonly kind: string;
  readonly name: string;
  readonly bytes: Buffer;
}

/** Sound files of every kind that is taken, small. */
async function sound(): Promise<Record<string, Buffer>> {
  const next = chance(7);
  const [width, height] = [160, 120];
  const raw = Buffer.from(
    Uint8Array.from({ length: width * height * 3 }, (_, i) => 90 + ((i / 3) % width) * 0.6 + next() * 40),
  );
  const image = () => sharp(raw, { raw: { width, height, channels: 3 } });
  const bmp = Buffer.alloc(54 + width * height * 3);
  bmp.write("BM");
  bmp.writeUInt32LE(54, 10);
  bmp.writeUInt32LE(40, 14);
  bmp.writeInt32LE(width, 18);
  bmp.writeInt32LE(height, 22);
  bmp.writeUInt16LE(1, 26);
  bmp.writeUInt16LE(24, 28);
  raw.copy(bmp, 54);
  return {
    "a.png": await image().png().toBuffer(),
    "deep.png": await image().toColourspace("rgb16").png().toBuffer(),
    "palette.png": await image().png({ palette: true }).toBuffer(),
    "a.jpg": await image().jpeg().toBuffer(),
    "progressive.jpg": await image().jpeg({ progressive: true }).toBuffer(),
    "cmyk.jpg": await image().toColourspace("cmyk").jpeg().toBuffer(),
    "a.webp": await image().webp().toBuffer(),
    "lzw.tif": await image().tiff({ compression: "lzw" }).toBuffer(),
    "jpeg.tif": await image().tiff({ compression: "jpeg" }).toBuffer(),
    "a.gif": await image().gif().toBuffer(),
    "a.bmp": bmp,
    ...(await soundPdfs(await image().jpeg().toBuffer())),
    ...soundPhones(),
    "a.svg": Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="60"><path d="M5 5L70 9L40 50Z" fill="#246"/></svg>',
    ),
  };
}

const svg = (inner: string, attributes = 'width="400" height="300"'): Buffer =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inner}</svg>`,
  );

/** Shapes that take a decoder minutes. */
export function endless(seed: number, side = 4000): Buffer {
  const masks = Array.from({ length: 14 }, (_, k) => {
    const under = k
      ? `<g mask="url(#m${k - 1})"><rect width="${side}" height="${side}" fill="#fff"/></g>`
      : "";
    return (
      `<filter id="f${k}"><feTurbulence baseFrequency="0.0${seed % 10}${k}" numOctaves="9"/><feGaussianBlur stdDeviation="90"/></filter>` +
      `<mask id="m${k}"><g filter="url(#f${k})">${under}${under}<rect width="9" height="9" fill="#fff"/></g></mask>`
    );
  });
  return svg(
    `<defs>${masks.join("")}</defs><rect width="${side}" height="${side}" mask="url(#m13)"/><!-- ${seed} -->`,
    `width="${side}" height="${side}"`,
  );
}

function chunk(type: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(type), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length);
  body.copy(out, 4);
  out.writeUInt32BE((crc32 as (d: Uint8Array) => number)(body), out.length - 4);
  return out;
}

function pngSaying(width: number, height: number, extra: readonly Buffer[] = [], rows?: Buffer): Buffer {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width);
  header.writeUInt32BE(height, 4);
  header.set([8, 0, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]),
    chunk("IHDR", header),
    ...extra,
    chunk("IDAT", rows ?? deflateSync(Buffer.alloc(64))),
    chunk("IEND", Buffer.alloc(0)),
  ]);
}

async function bombs(): Promise<HostileFile[]> {
  const solid = (seed: number) =>
    sharp({
      create: { width: 14000, height: 14000, channels: 3, background: { r: seed, g: 9, b: 9 } },
      limitInputPixels: false,
    })
      .png()
      .toBuffer();
  const texts = Array.from({ length: 300 }, () =>
    chunk("zTXt", Buffer.concat([Buffer.from("Comment\0\0"), deflateSync(Buffer.alloc(20 << 20))])),
  );
  const grey = deflateSync(Buffer.alloc(121 * 120));
  const entities = Array.from({ length: 30 }, (_, k) => `<!ENTITY e${k + 1} "&e${k};&e${k};">`).join("");
  const named: [string, Buffer][] = [
    ["solid 196 MP, a.png", await solid(1)],
    ["solid 196 MP, b.png", await solid(2)],
    ["texts.png", pngSaying(120, 120, texts, grey)],
    ["said 2^31 wide.png", pngSaying(2147483647, 1)],
    ["said 0 wide.png", pngSaying(0, 5)],
    ["1 x 500000.png", pngSaying(1, 500000, [], deflateSync(Buffer.alloc(1000000)))],
    [
      "entities.svg",
      Buffer.from(
        `<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY e0 "x">${entities}]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><text>&e30;</text></svg>`,
      ),
    ],
    [
      "file entity.svg",
      Buffer.from(
        '<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY e SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><text>&e;</text></svg>',
      ),
    ],
    [
      "references.svg",
      svg(
        '<image xlink:href="file:///etc/passwd" width="9" height="9"/><image href="http://127.0.0.1:9/x.png" width="9" height="9"/><use href="http://127.0.0.1:9/x.svg#a"/>',
      ),
    ],
    ["script.svg", svg("<script>while(1);</script><rect width='9' height='9'/>")],
    [
      "recursive use.svg",
      svg('<g id="a"><use href="#a"/><use href="#b"/></g><g id="b"><use href="#a"/></g>'),
    ],
    [
      "doubling use.svg",
      svg(
        Array.from(
          { length: 24 },
          (_, k) => `<g id="u${k + 1}"><use href="#u${k}"/><use href="#u${k}"/></g>`,
        ).join("") + '<rect id="u0" width="4" height="4"/><use href="#u24"/>',
      ),
    ],
    ["deep.svg", svg("<g>".repeat(100000) + "</g>".repeat(100000))],
    [
      "deep clips.svg",
      svg(
        Array.from(
          { length: 200 },
          (_, k) =>
            `<clipPath id="c${k + 1}"><rect width="400" height="300" clip-path="url(#c${k})"/></clipPath>`,
        ).join("") + '<rect width="400" height="300" clip-path="url(#c200)"/>',
      ),
    ],
    [
      "blur of a million.svg",
      svg(
        '<filter id="f"><feGaussianBlur stdDeviation="1000000"/></filter><rect width="400" height="300" filter="url(#f)"/>',
      ),
    ],
    [
      "morphology.svg",
      svg(
        '<filter id="f"><feMorphology operator="dilate" radius="4000"/></filter><rect width="4000" height="4000" filter="url(#f)"/>',
        'width="4000" height="4000"',
      ),
    ],
    ["path of a million.svg", svg(`<path d="M0 0${"L9 9L400 3".repeat(100000)}" stroke="#000"/>`)],
    [
      "pattern of dust.svg",
      svg(
        '<pattern id="p" width="0.01" height="0.01" patternUnits="userSpaceOnUse"><rect width="0.005" height="0.005"/></pattern><rect width="400" height="300" fill="url(#p)"/>',
      ),
    ],
    ...[1, 2, 3, 4].map((seed): [string, Buffer] => [`masks ${seed}.svg`, endless(seed)]),
    ...["1e9", "1e308", "NaN", "-5", "0", "99999%", "1e5mm", "1e-9"].map((v): [string, Buffer] => [
      `width ${v}.svg`,
      svg("<rect width='9' height='9'/>", `width="${v}" height="10"`),
    ]),
  ];
  return named.map(([name, bytes]) => ({ kind: "bombs", name, bytes }));
}

function strangers(): HostileFile[] {
  const next = chance(11);
  const noise = (n: number) => Buffer.from(Uint8Array.from({ length: n }, () => next() * 256));
  const heads: [string, Buffer][] = [
    ["%PDF-1.7", Buffer.from("%PDF-1.7\n")],
    ["PK", Buffer.from("PK\u0003\u0004")],
    ["MZ", Buffer.from("MZ")],
    ["html", Buffer.from("<html><body><svg></svg></body></html>")],
    ["text", Buffer.from("dear shop, please find my logo")],
    ["ELF", Buffer.from("\u007fELF")],
    ["IIRO", Buffer.from("IIRO")],
    ["ftypheic", Buffer.from("\0\0\0\u0018ftypheic")],
    ["PNG head only", Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10])],
    ["JPEG head only", Buffer.from([0xff, 0xd8, 0xff])],
    ["GIF head only", Buffer.from("GIF89a")],
    ["TIFF head only", Buffer.from("II*\0")],
    ["BMP head only", Buffer.from("BM")],
    ["WebP head only", Buffer.from("RIFF\0\0\0\0WEBP")],
    ["svg open", Buffer.from("<svg")],
    ["empty", Buffer.alloc(0)],
  ];
  return heads.flatMap(([name, head]) => [
    { kind: "strangers", name, bytes: head },
    ...(head.length
      ? [{ kind: "strangers", name: `${name} and noise`, bytes: Buffer.concat([head, noise(3000)]) }]
      : []),
  ]);
}

/** Some eight hundred files that nobody should send, the same ones each time. */
export async function hostileFiles(): Promise<HostileFile[]> {
  const out: HostileFile[] = [];
  for (const [name, bytes] of Object.entries(await sound())) {
    const next = chance(bytes.length);
    const add = (kind: string, what: string, changed: Buffer) =>
      out.push({ kind, name: `${what}, ${name}`, bytes: changed });
    add("sound", "as it is", bytes);
    for (let k = 1; k <= 7; k++)
      add("cut off", `${k} eighths`, bytes.subarray(0, Math.floor((bytes.length * k) / 8)));
    for (let k = 0; k < 8; k++) {
      const changed = Buffer.from(bytes);
      for (let n = 0; n < 1 + k * 4; n++)
        changed[Math.floor(next() * bytes.length)] ^= 1 << Math.floor(next() * 8);
      add("bits turned", `${1 + k * 4}`, changed);
    }
    for (let k = 0; k < 8; k++) {
      const changed = Buffer.from(bytes);
      for (let n = 0; n < 3; n++)
        changed[4 + Math.floor(next() * Math.min(120, bytes.length - 4))] = next() < 0.5 ? 255 : 0;
      add("heads damaged", `${k}`, changed);
    }
    for (let k = 0; k < 3; k++) {
      const at = Math.floor(next() * bytes.length);
      add(
        "filled with nothing",
        `${k}`,
        Buffer.from(bytes).fill(0, at, Math.min(bytes.length, at + (bytes.length >> 2))),
      );
    }
    add("joined", "twice", Buffer.concat([bytes, bytes]));
    add("joined", "noise after", Buffer.concat([bytes, Buffer.alloc(5000, 0xa5)]));
    add("joined", "a byte before", Buffer.concat([Buffer.from([10]), bytes]));
  }
  const others = { ...hostilePdfs(), ...hostilePhones() };
  const more = Object.entries(others).map(([name, bytes]) => ({ kind: "bombs", name, bytes }));
  return [...out, ...strangers(), ...(await bombs()), ...more];
}

import sharp from "sharp";

const at = (cx: number, cy: number, r: number, a: number): string =>
  `${(cx + r * Math.cos(a)).toFixed(1)} ${(cy + r * Math.sin(a)).toFixed(1)}`;

/**
 * A pilot station's crest: a ship's wheel in a ring with a pale outline of its own, over a band of rope knots. Between
 * the spokes, in the handles, in the knots and in the letters the ground shows through. Clear where it is not drawn.
 */
export function wheelCrest(): string {
  const [navy, red, cream] = ["#173a5e", "#b5322b", "#efe0b8"];
  const [cx, cy] = [600, 500];
  const spokes = Array.from({ length: 8 }, (_, k) => {
    const a = (k / 8) * 2 * Math.PI + Math.PI / 8;
    const d = (a * 180) / Math.PI;
    return `<path d="M${at(cx, cy, 70, a)}L${at(cx, cy, 330, a)}" stroke="${navy}" stroke-width="26"/><g transform="translate(${at(cx, cy, 410, a)}) rotate(${d.toFixed(1)})"><path fill-rule="evenodd" d="M-62-16h84q40 0 40 16t-40 16h-84zM2-7h18q20 0 20 7t-20 7h-18z" fill="${red}"/></g>`;
  }).join("");
  const knots = Array.from({ length: 9 }, (_, k) => {
    const x = 200 + k * 100;
    return `<path fill-rule="evenodd" d="M${x - 46} 1010a46 34 0 1 0 92 0a46 34 0 1 0-92 0zM${x - 26} 1010a26 16 0 1 1 52 0a26 16 0 1 1-52 0z" fill="${k % 2 ? red : navy}"/>`;
  }).join("");
  const letter = (x: number, d: string) =>
    `<path transform="translate(${x} 1110)" fill-rule="evenodd" fill="${navy}" d="${d}"/>`;
  const glyphs: Record<string, readonly [number, string]> = {
    P: [92, "M0 0h52a38 36 0 1 1 0 72h-26v38h-26zM26 22h22a14 14 0 1 1 0 28h-22z"],
    I: [26, "M0 0h26v110h-26z"],
    L: [66, "M0 0h26v86h40v24h-66z"],
    O: [92, "M45 0a45 55 0 1 1 0 110a45 55 0 1 1 0-110zM45 26a20 29 0 1 0 0 58a20 29 0 1 0 0-58z"],
    T: [74, "M0 0h74v24h-24v86h-26v-86h-24z"],
    B: [
      88,
      "M0 0h50a30 28 0 0 1 20 50a32 31 0 0 1-16 60h-54zM26 21h20a10 10 0 1 1 0 22h-20zM26 64h24a11 11 0 1 1 0 25h-24z",
    ],
    A: [94, "M32 0h30l32 110h-28l-6-22h-26l-6 22h-28zM41 66h13l-7-30z"],
    " ": [44, ""],
  };
  let pen = 136;
  const word = [..."PILOT BOAT"]
    .map((c) => {
      const [wide, d] = glyphs[c];
      const drawn = letter(pen, d);
      pen += wide + 22;
      return drawn;
    })
    .join("");
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="1300" viewBox="0 0 1200 1300">` +
    `<circle cx="${cx}" cy="${cy}" r="338" fill="none" stroke="${cream}" stroke-width="92"/>` +
    `<circle cx="${cx}" cy="${cy}" r="338" fill="none" stroke="${navy}" stroke-width="64"/>` +
    `<circle cx="${cx}" cy="${cy}" r="338" fill="none" stroke="${cream}" stroke-width="8"/>` +
    `${spokes}<path fill-rule="evenodd" fill="${red}" d="M${cx - 96} ${cy}a96 96 0 1 0 192 0a96 96 0 1 0-192 0zM${cx - 40} ${cy}a40 40 0 1 1 80 0a40 40 0 1 1-80 0z"/>${knots}${word}</svg>`
  );
}

export const CREST = { width: 1200, height: 1300 };

/** The crest as customers send one: on a white box, saved as JPEG. @param width  in pixels */
export const crestAsJpeg = (width = CREST.width): Promise<Buffer> =>
  sharp(Buffer.from(wheelCrest()))
    .resize(width)
    .flatten({ background: "#ffffff" })
    .jpeg({ quality: 74 })
    .toBuffer();

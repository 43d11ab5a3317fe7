import sharp from "sharp";

const round = (n: number): string => n.toFixed(1);

/** A rowing club's badge: crossed oars over a knot of waves in a ring of rope. Three flat colours. */
export function clubBadge(): string {
  const [navy, red, cream] = ["#1f3a5f", "#b8392e", "#f2e6c8"];
  const rope = Array.from({ length: 60 }, (_, k) => {
    const a = (k / 60) * 2 * Math.PI;
    const at = (r: number, da: number) =>
      `${round(700 + r * Math.cos(a + da))} ${round(700 + r * Math.sin(a + da))}`;
    return `<path d="M${at(566, -0.04)}Q${at(600, 0.01)} ${at(634, 0.045)}" stroke="${cream}" stroke-width="13" fill="none" stroke-linecap="round"/>`;
  }).join("");
  const oar = (turn: number) =>
    `<g transform="rotate(${turn} 700 700)"><rect x="682" y="330" width="36" height="800" rx="16" fill="${cream}"/>` +
    `<path d="M640 300C640 210 668 168 700 168C732 168 760 210 760 300L748 452C744 484 722 500 700 500C678 500 656 484 652 452Z" fill="${red}"/>` +
    `<path d="M700 190L700 470" stroke="${cream}" stroke-width="14"/><rect x="668" y="1040" width="64" height="120" rx="26" fill="${red}"/>` +
    `<rect x="672" y="690" width="56" height="70" fill="${navy}"/></g>`;
  const waves = [0, 1, 2]
    .map(
      (k) =>
        `<path d="M${430 + 45 * k} ${960 + 62 * k}${`c45 -46 ${90 - 10 * k} -46 ${135 - 15 * k} 0s${90 - 10 * k} 46 ${135 - 15 * k} 0`.repeat(2)}" fill="none" stroke="${cream}" stroke-width="24" stroke-linecap="round"/>`,
    )
    .join("");
  const points = Array.from({ length: 10 }, (_, k) => {
    const [a, r] = [(k / 10) * 2 * Math.PI - Math.PI / 2, k % 2 ? 38 : 92];
    return `${round(700 + r * Math.cos(a))},${round(330 + r * Math.sin(a))}`;
  }).join(" ");
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="1400" height="1400"><circle cx="700" cy="700" r="650" fill="${navy}"/>` +
    `<circle cx="700" cy="700" r="520" fill="none" stroke="${cream}" stroke-width="16"/>${rope}${oar(38)}${oar(-38)}${waves}` +
    `<polygon points="${points}" fill="${cream}"/></svg>`
  );
}

/** The badge as customers send one: on a white box, saved as JPEG more than once. */
export async function badgeAsJpeg(): Promise<Buffer> {
  const once = await sharp(Buffer.from(clubBadge()))
    .flatten({ background: "#ffffff" })
    .resize(1180, 1180)
    .jpeg({ quality: 58 })
    .toBuffer();
  return sharp(once).jpeg({ quality: 66 }).toBuffer();
}

/** An anchor with a ring, for key tags; shapes, with the eye and both bays open. */
export function anchorTag(): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" width="420" height="520" viewBox="0 0 420 520">
<g fill="#15181d" fill-rule="evenodd"><path d="M210 20a46 46 0 1 1 0 92a46 46 0 1 1 0-92zm0 24a22 22 0 1 0 0 44a22 22 0 1 0 0-44z"/>
<path d="M192 108h36v48h82v34h-82v228c62-10 108-52 122-112l-34 14l52-92l46 92l-32-10c-16 92-92 158-172 158s-156-66-172-158l-32 10l46-92l52 92l-34-14c14 60 60 102 122 112v-228h-82v-34h82z"/></g></svg>`;
}

/** A house number in a frame, cut as a stencil for stone. */
export function houseNumber(): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" width="600" height="300" viewBox="0 0 600 300">
<g fill="#15181d"><path fill-rule="evenodd" d="M10 10h580v280h-580zM28 28v244h544v-244z"/>
<path fill-rule="evenodd" d="M300 60h40v110h28v34h-28v44h-42v-44h-92v-32zM298 112l-46 58h46z"/>
<path d="M60 60q40 30 0 60q40 30 0 60q40 30 0 60h20q40-30 0-60q40-30 0-60q40-30 0-60zM540 60q-40 30 0 60q-40 30 0 60q-40 30 0 60h-20q-40-30 0-60q-40-30 0-60q-40-30 0-60z"/></g></svg>`;
}

import { setText } from "@hardline/core/letters/setText";
import { type KnotPath } from "@hardline/core/path/pathSet";

const [GOLD, RED, PALE] = ["#f0b63a", "#d8432b", "#f7f3e6"];
const round = (n: number): string => n.toFixed(1);

/** Outlines as a path of an SVG. */
function drawn(paths: readonly KnotPath[]): string {
  return paths
    .map(({ knots }) => {
      const at = (p: readonly number[], by: readonly number[] = [0, 0]) =>
        `${round(p[0] + by[0])} ${round(p[1] + by[1])}`;
      const parts = [`M${at(knots[0].at)}`];
      for (let k = 0; k < knots.length; k++) {
        const [a, b] = [knots[k], knots[(k + 1) % knots.length]];
        parts.push(`C${at(a.at, a.out)} ${at(b.at, b.in)} ${at(b.at)}`);
      }
      return `${parts.join("")}Z`;
    })
    .join("");
}

function line(text: string, height: number, y: number): string {
  const { width } = setText(text, height);
  return drawn(setText(text, height, 450 - width / 2, y).paths);
}

/** The emblem of a sailing week: a tern before a sun over the sea. Three flat colours on nothing. */
export function ternEmblem(): string {
  const rays = Array.from({ length: 24 }, (_, k) => {
    const a = (k / 24) * 2 * Math.PI;
    const at = (r: number, by: number) =>
      `${round(450 + r * Math.cos(a + by))} ${round(370 + r * Math.sin(a + by))}`;
    const long = k % 2 ? 318 : 344;
    return `<path d="M${at(262, -0.055)}L${at(long, 0)}L${at(262, 0.055)}Z"/>`;
  }).join("");
  const wave = (y: number, high: number) =>
    `M120 ${y}${`q41 ${-high} 82.5 0t82.5 0`.repeat(4)}v${38}${`q-41 ${high} -82.5 0t-82.5 0`.repeat(4)}Z`;
  const wing =
    "M452 405C420 330 352 262 236 214C300 214 352 228 392 250C374 232 362 214 356 190C424 226 474 290 500 366C548 286 618 228 716 196C690 224 668 242 642 256C672 250 700 250 736 258C640 288 572 344 536 422C524 452 500 468 470 470C440 470 404 462 372 448C340 452 314 462 292 480C302 452 322 430 350 420C384 420 420 416 452 405Z";
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="900" viewBox="0 0 900 900">` +
    `<g fill="${GOLD}"><circle cx="450" cy="370" r="240"/>${rays}</g>` +
    `<path fill="${PALE}" d="${wing}"/>` +
    `<path fill="${RED}" d="M528 396C552 392 590 404 640 428C596 432 560 436 534 426Z"/><circle cx="512" cy="404" r="9" fill="${RED}"/>` +
    `<g fill="${RED}"><path d="${wave(560, 34)}"/><path d="${wave(664, 34)}"/></g>` +
    `<path fill="${PALE}" d="${wave(612, 34)}"/>` +
    `<path fill="${PALE}" d="${line("SAILING WEEK", 58, 800)}"/>` +
    `<path fill="${GOLD}" d="${line("Tern Street Harbour", 30, 862)}"/></svg>`
  );
}

import { readRoute, type Route } from "@hardline/core/route/route";
import { type ArtworkSource } from "@hardline/core/route/source";

const [WIDTH, HEIGHT] = [900, 700];

/** A small job of the kind that most tickets are, for a worker to work through before it is wanted. */
export function warmUpJob(): { route: Route; source: ArtworkSource } {
  const data = Uint8Array.from({ length: 4 * WIDTH * HEIGHT }, (_, i) => (i % 4 === 3 ? 255 : (i * 7) & 255));
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "Warm up",
    stages: [
      { stage: "size", widthMm: 60, dotsPerInch: 254 },
      {
        stage: "tone",
        curve: [
          [0, 0],
          [0.5, 0.6],
          [1, 1],
        ],
      },
      { stage: "blackWhite" },
    ],
  });
  const facts = { sha256: "0", width: WIDTH, height: HEIGHT, vector: false };
  return { route, source: { facts, pixels: async () => ({ width: WIDTH, height: HEIGHT, data }) } };
}

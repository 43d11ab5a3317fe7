import { planOf, stepUpTo } from "./plan";
import { readRoute, type Route } from "./route";
import { Runner } from "./runner";
import { type ArtworkSource } from "./source";

const facts = { sha256: "a", width: 4, height: 4, vector: false };
const picture = { width: 4, height: 4, data: new Uint8Array(64).fill(255) };
const source: ArtworkSource = { facts, pixels: async () => picture };

const routeOf = (black: number): Route =>
  readRoute({
    format: "hard-line-route",
    version: 1,
    name: "x",
    stages: [
      { stage: "size", widthMm: 1 },
      { stage: "tone", black },
    ],
  });

test("how long results took is remembered of the latest few thousand, not of all there ever were", async () => {
  let now = 0;
  const runner = new Runner({ clock: () => now++ });
  const took = (black: number): number => runner.took(stepUpTo(planOf(routeOf(black), facts), "tone"));
  const settings = Array.from({ length: 5000 }, (_, k) => k / 6000);
  for (const black of settings) await runner.run(routeOf(black), source, { upTo: "tone" });
  expect(took(settings[4999])).toBe(1);
  expect(took(settings[2500])).toBe(1);
  expect(took(settings[0])).toBe(0);
});

import fc from "fast-check";
import { share, whole } from "./parts";

type Body = Parameters<typeof share>[0];
const back = async (body: Body) => {
  const { body: named, parts } = share(body);
  // as the table keeps it: text in, JSON out
  const kept = new Map([...parts].map(([name, text]) => [name, JSON.parse(text) as Body]));
  return whole(
    JSON.parse(JSON.stringify(named)) as Body,
    async (names) => new Map(names.map((n) => [n, kept.get(n)!])),
  );
};
const points = (seed: number) => Array.from({ length: 80 }, (_, k) => seed + k / 7);
const route = (strokes: number, black = 0): Body => ({
  name: "A",
  stages: [
    { stage: "clear", ops: Array.from({ length: strokes }, (_, k) => ({ op: "stroke", points: points(k) })) },
    { stage: "tone", black },
  ],
});

test("what is shared comes back as it was", async () => {
  for (const body of [route(0), route(1), route(31), route(33), route(200)])
    expect(await back(body)).toEqual(body);
  await fc.assert(
    fc.asyncProperty(fc.jsonValue({ maxDepth: 4 }), async (value) => {
      const body = { value, again: [value, value] } as Body;
      expect(await back(body)).toEqual(JSON.parse(JSON.stringify(body)));
    }),
    { numRuns: 60 },
  );
});

test("a changed stage leaves the parts of others as they are", () => {
  const [one, two] = [share(route(100, 0)), share(route(100, 0.2))];
  const added = [...two.parts.keys()].filter((name) => !one.parts.has(name));
  expect(added).toEqual([]); // a short stage is not worth a part
  expect(JSON.stringify(two.body).length).toBeLessThan(400);
});

test("one more stroke among a thousand adds itself, its piece and its list, not the thousand", () => {
  const [one, two] = [share(route(1000)), share(route(1001))];
  const added = [...two.parts].filter(([name]) => !one.parts.has(name));
  const bytes = added.reduce((sum, [, text]) => sum + text.length, 0);
  const all = JSON.stringify(route(1001)).length;
  expect(added.length).toBeLessThanOrEqual(4);
  expect(bytes).toBeLessThan(all / 100);
});

test("a part that is gone is told, not passed over", async () => {
  const { body } = share(route(2));
  await expect(whole(body, async () => new Map())).rejects.toThrow(/part [0-9a-f]{64} of a route is missing/);
});

import { tagsApart, type Tag } from "./tagsApart";

const tag = (x: number, y: number): Tag => ({ at: [x, y], width: 18, height: 17 });
const overlaps = (a: readonly [number, number], b: readonly [number, number]) =>
  Math.abs(a[0] - b[0]) < 18 && Math.abs(a[1] - b[1]) < 17;

test("tags that have room stay where they point to", () => {
  const tags = [tag(10, 10), tag(60, 10), tag(10, 60)];
  expect(tagsApart(tags)).toEqual(tags.map((t) => t.at));
});

test("forty neighbouring gaps have numbers of which none covers another, each near its own", () => {
  const tags = Array.from({ length: 40 }, (_, k) => tag(100 + 9 * (k % 8), 100 + 8 * Math.floor(k / 8)));
  const places = tagsApart(tags);
  expect(places[0]).toEqual([100, 100]);
  places.forEach((a, i) => places.slice(i + 1).forEach((b) => expect(overlaps(a, b)).toBe(false)));
  places.forEach(([x, y], i) => expect(Math.hypot(x - tags[i].at[0], y - tags[i].at[1])).toBeLessThan(110));
});

import { codesOf, oklabOf } from "../colour/oklab";
import { hueTurned } from "./hues";

const labOf = (hex: string) => oklabOf(...codesOf(hex));

test("a turned hue keeps its lightness, comes back after a whole turn, and grey has none", () => {
  for (const hex of ["#a04030", "#3f6f8f", "#7a8a40"]) {
    for (const turn of [40, 95, 180, 260]) {
      const [before, after] = [labOf(hex), labOf(hueTurned(hex, turn))];
      expect(Math.abs(after.l - before.l)).toBeLessThan(0.6);
      const angle = (v: { a: number; b: number }) => (Math.atan2(v.b, v.a) * 180) / Math.PI;
      const off = (angle(after) - angle(before) - turn + 720) % 360;
      expect(Math.min(off, 360 - off)).toBeLessThan(3);
    }
    const back = codesOf(hueTurned(hex, 360));
    codesOf(hex).forEach((v, k) => expect(Math.abs(v - back[k])).toBeLessThanOrEqual(1));
  }
  expect(hueTurned("#808080", 90)).toBe("#808080");
  expect(hueTurned("#ffffff", 90)).toBe("#ffffff");
});

import { USUAL_LIMITS } from "./limits";
import { artFrom, pictureOf } from "../testing/clearings";
import { inspectStage } from "../testing/running";

describe("what is left", () => {
  const look = (at: (x: number, y: number) => number, strayMm2 = 1) => {
    const art = artFrom(pictureOf(100, 100, (x, y) => [30, 30, 30, at(x, y)]));
    const { checks, readings } = inspectStage("clear", art, {}, { ...USUAL_LIMITS, strayMm2 });
    return { islands: checks[1], tint: checks[2], readings };
  };
  const block = (x: number, y: number) => x < 50 && y < 50;
  test("a clean cut-out has neither", () => {
    const { islands, tint, readings } = look((x, y) => (block(x, y) ? 255 : 0));
    expect([islands.level, tint.level]).toEqual(["fine", "fine"]);
    expect(readings).toEqual({ keptPercent: 25, clearPercent: 75 });
  });
  test("islands below the size are counted, with their places", () => {
    const at = (x: number, y: number) => (block(x, y) || (x >= 80 && x < 84 && y >= 70 && y < 75) ? 255 : 0);
    expect(look(at).islands).toMatchObject({ level: "look", value: 1, text: "1 stray island" });
    expect(look(at).islands.places).toEqual([{ xMm: 8, yMm: 7, widthMm: 0.4, heightMm: 0.5 }]);
    expect(look(at, 0.1).islands.level).toBe("fine");
  });
  test("tint of one step in 255 is found far from the art, and a soft edge is none", () => {
    const tinted = look((x, y) => (block(x, y) ? 255 : x > 70 && y > 70 ? 1 : 0)).tint;
    expect(tinted).toMatchObject({ level: "look", text: "Faint tint outside the art" });
    expect(tinted.detail).toContain("0.4 to 0.4 %");
    expect(look((x, y) => (block(x, y) ? 255 : x < 53 && y < 53 ? 12 : 0)).tint.level).toBe("fine");
    // A wash that runs out over thirty pixels is an edge; the same strength lying flat is a haze.
    const wash = (x: number) => Math.max(0, 25 - (x - 50));
    expect(look((x, y) => (block(x, y) ? 255 : y < 50 ? wash(x) : 0)).tint.level).toBe("fine");
    expect(look((x, y) => (block(x, y) ? 255 : y < 50 && x < 75 ? 12 : 0)).tint.level).toBe("look");
  });
});

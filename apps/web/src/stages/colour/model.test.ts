import { WHOLE_FRAME } from "@hardline/core/path/frame";
import { areaAt, colouredAt, saidAt, takenBack } from "./model";
import { type ColourNote } from "./worker";

/** Two areas: the left half and the right half. */
const note = (areas: readonly number[]): ColourNote => ({
  areas,
  mm2: areas.map(() => 1),
  map: { width: 2, height: 1, of: Int32Array.of(0, 1) },
});
const RED = { at: [0.1, 0.5] as const, colour: "#ff0000" };

test("an area is known by a place on it", () => {
  expect([0.2, 0.7].map((x) => areaAt(note([]), WHOLE_FRAME, [x, 0.5]))).toEqual([0, 1]);
  expect(areaAt(undefined, WHOLE_FRAME, [0.2, 0.5])).toBe(-1);
  expect(areaAt(note([]), { x: 0.5, y: 0, width: 0.5, height: 1 }, [0.2, 0.5])).toBe(-1);
});
test("an area that takes another colour loses the one before, others keep theirs", () => {
  const made = colouredAt([RED], note([0]), WHOLE_FRAME, [[0.3, 0.2]], "#00ff00");
  expect(made).toEqual([{ at: [0.3, 0.2], colour: "#00ff00" }]);
  expect(colouredAt([RED], note([0]), WHOLE_FRAME, [[0.8, 0.2]], "#00ff00")).toHaveLength(2);
});
test("a drag over several colours each once", () => {
  const places = [0.1, 0.2, 0.4, 0.6, 0.9].map((x) => [x, 0.5] as const);
  expect(colouredAt([], note([]), WHOLE_FRAME, places, "#00ff00").map((a) => a.at[0])).toEqual([0.1, 0.6]);
});
test("one is taken back; where it is not known which, it is said that it stays as it is", () => {
  expect(takenBack([RED], note([0]), WHOLE_FRAME, [0.4, 0.5])).toEqual([]);
  expect(takenBack([RED], undefined, WHOLE_FRAME, [0.4, 0.5])).toEqual([
    RED,
    { at: [0.4, 0.5], colour: null },
  ]);
  expect(saidAt(note([0, 1, 0]), WHOLE_FRAME, [0.2, 0.2])).toBe(2);
});

import { clearSettings } from "../testing/clearings";
import { readRoute, settingsOf, withSettings } from "../route/route";

test("an operation that was checked once is the very same when other settings change", () => {
  const strokes = [{ points: [[0.1, 0.2]], sizeMm: 2 }];
  const route = readRoute({
    format: "hard-line-route",
    version: 1,
    name: "A",
    stages: [{ stage: "clear", ops: [{ op: "hold", strokes }] }],
  });
  const moved = withSettings(route, "clear", { edgeMm: 0.3 });
  const [before, after] = [settingsOf(route, "clear")!, settingsOf(moved, "clear")!];
  expect(after.edgeMm).toBe(0.3);
  expect(after.ops[0]).toBe(before.ops[0]);
});

test("what was not checked is, and is refused in the same words as ever", () => {
  expect(() => clearSettings({ ops: [{ op: "pick", at: [2, 0] }] })).toThrow(
    "clear: ops.0.at.0 is 2; allowed: 1 or less",
  );
  expect(() => clearSettings({ ops: ["pick"] })).toThrow(/clear: ops.0/);
  expect(() => clearSettings({ ops: [{ op: "hold", strokes: [], colour: 1 }] })).toThrow(
    "clear: ops.0.colour is 1; allowed: only the settings that docs/route-file.md lists",
  );
});

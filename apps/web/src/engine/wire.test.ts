import { readRoute, settingsOf, withSettings } from "@hardline/core/route/route";
import { Packer, Unpacker } from "./wire";

const route = readRoute({
  format: "hard-line-route",
  version: 1,
  name: "A",
  stages: [{ stage: "clear", ops: [{ op: "pick", at: [0.1, 0.2] }] }, { stage: "tone" }],
});
/** What goes over to a worker and what arrives there is a copy. */
const over = <T>(value: T): T => structuredClone(value);

test("a stage that did not change is not sent again, and is the very same object on the other side", () => {
  const [packer, unpacker] = [new Packer(), new Unpacker()];
  const first = unpacker.unpack(over(packer.pack(route)));
  expect(first).toEqual(route);
  const changed = withSettings(route, "tone", { black: 0.2 });
  const packed = packer.pack(changed);
  expect(packed.stages[0]).toEqual({ stage: "clear", asBefore: true });
  const second = unpacker.unpack(over(packed));
  expect(second).toEqual(changed);
  expect(settingsOf(second, "clear")).toBe(settingsOf(first, "clear"));
  expect(settingsOf(second, "tone")).not.toBe(settingsOf(first, "tone"));
});

test("a stage that went and came back is sent anew", () => {
  const [packer, unpacker] = [new Packer(), new Unpacker()];
  unpacker.unpack(over(packer.pack(route)));
  unpacker.unpack(over(packer.pack({ ...route, stages: [route.stages[1]] })));
  const other = withSettings(route, "clear", { edgeMm: 1 });
  expect(unpacker.unpack(over(packer.pack(other)))).toEqual(other);
  expect(unpacker.unpack(over(packer.pack(route)))).toEqual(route);
});

import fc from "fast-check";
import { checkCounts } from "./bodies";

const bytes = (text: string) => new TextEncoder().encode(text);
const countsOf = (value: unknown): { objects: number; values: number } => {
  let [objects, values] = [0, 1];
  const walk = (v: unknown): void => {
    if (Array.isArray(v)) {
      values += 1 + Math.max(0, v.length - 1);
      v.forEach(walk);
    } else if (typeof v === "object" && v !== null) {
      objects++;
      values += Math.max(0, Object.keys(v).length - 1);
      Object.values(v).forEach(walk);
    }
  };
  walk(value);
  return { objects, values };
};

test("what is counted in the text is what is in it, whatever letters its texts hold", () => {
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 4 }), (value) => {
      const text = JSON.stringify(value);
      const { objects, values } = countsOf(value);
      expect(() => checkCounts(bytes(text), { objects, values })).not.toThrow();
      if (objects > 0)
        expect(() => checkCounts(bytes(text), { objects: objects - 1, values })).toThrow(/objects/);
      expect(() => checkCounts(bytes(text), { objects, values: values - 1 })).toThrow(/values/);
    }),
  );
});

test("brackets and commas within texts are letters", () => {
  const text = JSON.stringify({ note: '{[,"\\{,' });
  expect(() => checkCounts(bytes(text), { objects: 1, values: 1 })).not.toThrow();
});

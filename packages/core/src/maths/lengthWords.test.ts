import { inUnit } from "./lengthWords";

test.each([
  ["90 mm wide, 254 dots/in", "3.54 in wide, 254 dots/in"],
  ["Trap by 0.25 mm.", "Trap by 0.00984 in."],
  ["Bed 330.2 × 3000 mm", "Bed 13 × 118.1 in"],
  ["allowed: 1 to 5000 mm", "allowed: 0.0394 to 196.9 in"],
  ["12.7 mm² bare where 25.4 mm is", "0.0197 in² bare where 1 in is"],
  ["runs at 300 mm/s, 6000 mm/s²", "runs at 11.8 in/s, 236.2 in/s²"],
  ["middle −10, out −0.5 mm", "middle −10, out −0.0197 in"],
  ["within 0.02 mm, strokes to 1.25 mm as lines", "within 0.000787 in, strokes to 0.0492 in as lines"],
  ["450 mmol, 12 mmHg, 3 mm", "450 mmol, 12 mmHg, 0.118 in"],
  ["comma 5 mm, dash 6 mm–8 mm", "comma 0.197 in, dash 0.236 in–0.315 in"],
])("%s", (text, inches) => {
  expect(inUnit(text, "in")).toBe(inches);
  expect(inUnit(text, "mm")).toBe(text);
});

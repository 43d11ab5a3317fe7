import { measureOf, numberIn, readTyped, shownNumber } from "./measure";

test.each([
  ["12", 12],
  ["0,065", 0.065],
  [".5", 0.5],
  ["-3.25", -3.25],
  ["−3", -3],
  ["1/8", 0.125],
  ["1 1/8", 1.125],
  ["2-3/4", 2.75],
  ["-1/2", -0.5],
  ["", null],
  [".", null],
  ["1/0", null],
  ["1.2.3", null],
  ["abc", null],
  ["12x", null],
])("%p as a number", (text, value) => expect(numberIn(text)).toBe(value));

const mm = measureOf("mm", 2, "mm");
const inches = measureOf("mm", 2, "in");
test.each([
  ["3", mm, 3],
  ["3", inches, 76.2],
  ["3mm", inches, 3],
  ["3 mm", mm, 3],
  ["1/8 in", mm, 3.175],
  ['0.065"', mm, 1.651],
  ["0,065 in", inches, 1.651],
  ["2,5 cm", mm, 25],
  ["10 thou", mm, 0.254],
  ["⌀ 12", mm, 12],
  ["3 kg", mm, null],
  ["abc", mm, null],
])("%p in a field of lengths is %p", (text, measure, value) =>
  expect(readTyped(text, measure, "⌀ ")).toBe(value),
);

test("areas, speeds and plain numbers take their own unit or none", () => {
  const area = measureOf("mm²", 1, "in");
  expect(readTyped("1", area)).toBe(645.16);
  expect(readTyped("1 in²", area)).toBe(645.16);
  expect(readTyped("1 mm", area)).toBeNull();
  expect(readTyped("2 in/s", measureOf("mm/s", 0, "in"))).toBe(50.8);
  expect(readTyped("50 %", measureOf("%", 0, "in"))).toBe(50);
  expect(readTyped("50 mm", measureOf("%", 0, "mm"))).toBeNull();
});

test("shown in inches a length is as fine as in millimetres, and read back it is the same", () => {
  for (const value of [0.01, 0.25, 3, 90, 330.2, 4999.99]) {
    expect(readTyped(shownNumber(value, inches), inches)).toBeCloseTo(value, value < 1 ? 2 : 1);
    expect(Number(shownNumber(value, inches)) / (value / 25.4)).toBeCloseTo(1, 1);
    expect(readTyped(shownNumber(value, mm), mm)).toBe(value);
  }
  expect([measureOf("mm an arrow", 3, "in").unit, measureOf("mm/s²", 0, "in").unit]).toEqual([
    "in an arrow",
    "in/s²",
  ]);
  expect(measureOf("dots/in", 1, "in")).toEqual({ unit: "dots/in", per: 1, decimals: 1, isLength: false });
});

import { expMinus, root, sinPi, cubeRoot, logOf } from "./steady";

test("sinPi agrees with the platform's sine and is exact where it should be", () => {
  for (let x = -50; x <= 50; x += 0.0371)
    expect(Math.abs(sinPi(x) - Math.sin(Math.PI * x))).toBeLessThan(2e-14);
  expect([sinPi(0), sinPi(1), sinPi(2)].map(Math.abs)).toEqual([0, 0, 0]);
  expect(sinPi(0.5)).toBeCloseTo(1, 15);
});

test("expMinus agrees with the platform's exponential", () => {
  for (let x = 0; x < 300; x = x * 1.3 + 0.001)
    expect(Math.abs(expMinus(x) / Math.exp(-x) - 1)).toBeLessThan(1e-12);
  expect(expMinus(800)).toBe(0);
});

test("root is undone by the power", () => {
  for (const n of [2, 3, 5, 12])
    for (let x = 0.001; x <= 1; x += 0.0173) expect(root(x, n) ** n).toBeCloseTo(x, 13);
  expect(root(0, 5)).toBe(0);
});

test("cube root and logarithm agree with the platform's to the last digits", () => {
  for (let i = 1; i < 2000; i++) {
    const x = i / 2000;
    expect(Math.abs(cubeRoot(x) - Math.cbrt(x))).toBeLessThan(1e-15);
    expect(Math.abs(logOf(x * 40) - Math.log(x * 40))).toBeLessThan(
      2e-15 * Math.max(1, Math.abs(Math.log(x * 40))),
    );
  }
  expect([cubeRoot(0), cubeRoot(1), logOf(1)]).toEqual([0, 1, 0]);
  expect(logOf(1e-12)).toBeCloseTo(Math.log(1e-12), 12);
});

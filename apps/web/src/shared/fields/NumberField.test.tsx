/** @jest-environment jsdom */
import { act, screen } from "@testing-library/react";
import { useState } from "react";
import { shown } from "../../testing/page";
import { useUnit } from "../unit";
import { NumberField } from "./NumberField";

const taken: (number | null)[] = [];
beforeEach(() => {
  taken.length = 0;
  act(() => useUnit.setState({ unit: "mm" }));
});

function Height({ start = 90 }: { start?: number }) {
  const [value, setValue] = useState(start);
  const change = (v: number) => {
    taken.push(v);
    setValue(v);
  };
  return <NumberField label="Height" unit="mm" min={1} max={5000} {...{ value, change }} />;
}
const field = () => screen.getByLabelText<HTMLInputElement>("Height");

test("nothing half typed is taken; the whole is, when the field is left", async () => {
  const { user } = shown(<Height />);
  await user.clear(field());
  await user.type(field(), "120");
  expect(taken).toEqual([]);
  await user.tab();
  expect(taken).toEqual([120]);
  expect(field().value).toBe("120 mm");
});

test("what is not allowed is told at the field, and goes back when it is left", async () => {
  const { user } = shown(<Height />);
  for (const text of ["99999", "abc", "0"]) {
    await user.clear(field());
    await user.type(field(), `${text}{Enter}`);
    expect(screen.getByRole("alert").textContent).toBe(`"${text}" is not taken; allowed: 1 to 5000 mm`);
    expect(field().getAttribute("aria-describedby")).toBe(screen.getByRole("alert").parentElement!.id);
    await user.tab();
    expect(field().value).toBe("90 mm");
  }
  expect(taken).toEqual([]);
});

test("a length may be typed with another unit, as a fraction, and with a comma", async () => {
  const { user } = shown(<Height />);
  for (const [text, mm] of [
    ["1/2 in", 12.7],
    ['2"', 50.8],
    ["3,5cm", 35],
  ] as const) {
    await user.clear(field());
    await user.type(field(), `${text}{Enter}`);
    expect(taken.at(-1)).toBe(mm);
  }
});

test("it follows the unit that is set, and is kept in millimetres", async () => {
  const { user } = shown(<Height start={25.4} />);
  act(() => useUnit.setState({ unit: "in" }));
  expect(field().value).toBe("1″");
  await user.clear(field());
  await user.type(field(), "2.5{Enter}");
  expect(taken).toEqual([63.5]);
});

test("arrow keys step within the range, and Escape lets go of what was typed", async () => {
  const { user } = shown(<Height start={2} />);
  await user.click(field());
  await user.keyboard("{ArrowDown}{ArrowDown}{ArrowDown}");
  expect(taken).toEqual([1]);
  await user.keyboard("{Shift>}{ArrowUp}{/Shift}");
  expect(taken).toEqual([1, 11]);
  await user.type(field(), "7{Escape}");
  expect(field().value).toBe("11 mm");
});

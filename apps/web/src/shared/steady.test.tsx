/** @jest-environment jsdom */
import { render } from "@testing-library/react";
import { useEffect } from "react";
import { steady } from "./steady";

interface Props {
  readonly value: number;
  readonly options?: readonly { readonly label: string }[];
  readonly change: (value: number) => void;
  readonly picture?: object;
}

function counted() {
  const seen = { drawn: 0, press: () => {} };
  const Control = steady(({ value, change }: Props) => {
    useEffect(() => {
      seen.drawn++;
      seen.press = () => change(value);
    });
    return <b>{value}</b>;
  });
  return { seen, Control };
}

test("it is drawn anew only when what it shows is another, and calls the newest function", () => {
  const { seen, Control } = counted();
  const told: string[] = [];
  const at = (name: string, value: number) => (
    <Control value={value} options={[{ label: "a" }]} change={(v) => told.push(`${name} ${v}`)} />
  );
  const { rerender, container } = render(at("first", 1));
  rerender(at("second", 1));
  expect(seen.drawn).toBe(1);
  seen.press();
  expect(told).toEqual(["second 1"]);
  rerender(at("third", 2));
  expect([seen.drawn, container.textContent]).toEqual([2, "2"]);
  seen.press();
  expect(told).toEqual(["second 1", "third 2"]);
});

test("what a list holds counts, and what is no plain data counts by itself", () => {
  const { seen, Control } = counted();
  const change = () => {};
  const { rerender } = render(<Control value={1} options={[{ label: "a" }]} change={change} />);
  rerender(<Control value={1} options={[{ label: "b" }]} change={change} />);
  expect(seen.drawn).toBe(2);
  const picture = new Map([[1, 1]]);
  rerender(<Control value={1} options={[{ label: "b" }]} change={change} picture={picture} />);
  rerender(<Control value={1} options={[{ label: "b" }]} change={change} picture={picture} />);
  expect(seen.drawn).toBe(3);
  rerender(<Control value={1} options={[{ label: "b" }]} change={change} picture={new Map([[1, 1]])} />);
  expect(seen.drawn).toBe(4);
});

/** @jest-environment jsdom */
import { act, screen } from "@testing-library/react";
import { shown } from "../testing/page";
import { useKeys, useKeysSetting } from "./keys";

const done: string[] = [];
beforeEach(() => {
  done.length = 0;
  act(() => useKeysSetting.setState({ plain: true }));
});

function Page() {
  useKeys([
    ["F", () => done.push("fit")],
    ["space", () => done.push("play")],
    ["mod+Z", () => done.push("undo")],
  ]);
  return (
    <>
      <button type="button" onClick={() => done.push("stop")}>
        Stop
      </button>
      <input aria-label="Name" />
    </>
  );
}
const stop = () => screen.getByRole("button", { name: "Stop" });

test("single keys act on the page, and not in a field", async () => {
  const { user } = shown(<Page />);
  await user.keyboard("f ");
  expect(done).toEqual(["fit", "play"]);
  await user.click(screen.getByLabelText("Name"));
  await user.keyboard("f ");
  expect(done).toEqual(["fit", "play"]);
});

test("on a button that was come to by Tab no single key acts; the space bar presses the button and nothing else", async () => {
  const { user } = shown(<Page />);
  await user.tab();
  expect(document.activeElement).toBe(stop());
  await user.keyboard("f");
  expect(done).toEqual([]);
  await user.keyboard(" ");
  expect(done).toEqual(["stop"]);
});

test("a button that was clicked leaves letters to the page, and keeps the space bar", async () => {
  const { user } = shown(<Page />);
  await user.click(stop());
  await user.keyboard("f ");
  expect(done).toEqual(["stop", "fit", "stop"]);
});

test("switched off, single keys do nothing; others still do", async () => {
  act(() => useKeysSetting.setState({ plain: false }));
  const { user } = shown(<Page />);
  await user.keyboard("f {Control>}z{/Control}");
  expect(done).toEqual(["undo"]);
});

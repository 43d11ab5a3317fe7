/** @jest-environment jsdom */
import { fireEvent, render, screen } from "@testing-library/react";
import { useRef, useState } from "react";
import { WHOLE, type Box, type Placed, type TableView } from "../../table/geometry";
import { useMoving } from "./useMoving";
import { type Table } from "./useTable";

const box: Box = { width: 400, height: 300 };
const placed: Placed = { x: 0, y: 0, width: 400, height: 300, zoom: 1 };

/** A frame that is moved as the light table is; `views` has every view it was set to. */
function Frame({ views }: { views: TableView[] }) {
  const frame = useRef<HTMLDivElement>(null);
  const [view, setView] = useState(WHOLE);
  const table = { view, setView: (v: TableView) => (views.push(v), setView(v)) } as unknown as Table;
  const { dragTo, ...moving } = useMoving(frame, table, placed, box);
  return <div ref={frame} role="application" tabIndex={0} {...moving} onPointerMove={dragTo} />;
}

beforeAll(() => {
  window.PointerEvent ??= MouseEvent as unknown as typeof PointerEvent; // which this document does not have
  Element.prototype.setPointerCapture = () => undefined;
});

function moved(act: (frame: HTMLElement) => void): TableView[] {
  const views: TableView[] = [];
  render(<Frame views={views} />);
  act(screen.getByRole("application"));
  return views;
}

test("arrow keys move it, plus and minus zoom, other keys are left alone", () => {
  const views = moved((frame) => {
    expect(fireEvent.keyDown(frame, { key: "ArrowLeft" })).toBe(false);
    expect(fireEvent.keyDown(frame, { key: "+" })).toBe(false);
    expect(fireEvent.keyDown(frame, { key: "q" })).toBe(true);
  });
  expect(views[0].centre).toEqual([(200 - 60) / 400, 0.5]);
  expect(views[1].zoom).toBeGreaterThan(1);
  expect(views).toHaveLength(2);
});

test("the wheel zooms about the pointer and does not scroll the page", () => {
  const views = moved((frame) => {
    expect(fireEvent.wheel(frame, { deltaY: -100, clientX: 100, clientY: 80 })).toBe(false);
  });
  expect(views).toHaveLength(1);
  const [{ zoom, centre }] = views;
  // What was under the pointer, a quarter of the way across, still is: 100 pixels left of the middle.
  expect(200 + (0.25 - centre[0]) * 400 * zoom).toBeCloseTo(100, 6);
  expect(150 + (80 / 300 - centre[1]) * 300 * zoom).toBeCloseTo(80, 6);
});

test("it follows a drag from where it was taken hold of, and no further once it is let go", () => {
  const views = moved((frame) => {
    fireEvent.pointerMove(frame, { clientX: 10, clientY: 10 });
    fireEvent.pointerDown(frame, { button: 0, clientX: 10, clientY: 10, pointerId: 1 });
    fireEvent.pointerMove(frame, { clientX: 30, clientY: 10 });
    fireEvent.pointerMove(frame, { clientX: 60, clientY: 20 });
    fireEvent.pointerUp(frame);
    fireEvent.pointerMove(frame, { clientX: 90, clientY: 90 });
  });
  expect(views.map(({ centre }) => centre)).toEqual([
    [(200 - 20) / 400, 0.5],
    [(200 - 50) / 400, (150 - 10) / 300],
  ]);
});

test("the second button takes no hold of it", () => {
  const views = moved((frame) => {
    fireEvent.pointerDown(frame, { button: 2, clientX: 10, clientY: 10, pointerId: 1 });
    fireEvent.pointerMove(frame, { clientX: 60, clientY: 20 });
  });
  expect(views).toEqual([]);
});

import { type Shown } from "../../engine/protocol";
import { drawTable } from "./drawTable";

const finish = { widthPx: 100, heightPx: 50, widthMm: 10, heightMm: 5, dotsPerInch: 254 };
const pane = (name: string, part = { x: 0, y: 0, width: 100, height: 50 }) => ({
  bitmap: name,
  stage: "blackWhite" as const,
  part,
  width: 100,
  height: 50,
  mark: 0,
  base: 0,
});
const shownOf = (...panes: object[]) => ({ panes, key: "k".repeat(64), finish }) as unknown as Shown;
const still = { on: false, at: 0.5, left: null, right: null };
const TABLE = { width: 400, height: 300 };

/** A canvas that writes down what is drawn on it. */
function paper() {
  const drawn: unknown[][] = [];
  const pen = new Proxy({} as Record<string, unknown>, {
    get: (target, name: string) =>
      ["drawImage", "rect", "clip"].includes(name)
        ? (...args: unknown[]) => drawn.push([name, ...args])
        : (target[name] ?? (() => undefined)),
    set: (target, name: string, value) => ((target[name] = value), true),
  });
  const canvas = { width: 0, height: 0, dataset: {} as Record<string, string>, getContext: () => pen };
  return { canvas: canvas as unknown as HTMLCanvasElement, drawn };
}

beforeAll(() => Object.assign(globalThis, { window: { devicePixelRatio: 1 } }));

test("the picture lies where it is placed, and the canvas says whose it is", () => {
  const { canvas, drawn } = paper();
  drawTable(
    canvas,
    TABLE,
    { x: 50, y: 40, width: 200, height: 100, zoom: 2 },
    shownOf(pane("dots")),
    still,
    0xffffff,
  );
  expect(drawn).toEqual([["drawImage", "dots", 50, 40, 200, 100]]);
  expect([canvas.width, canvas.height, canvas.dataset.shown]).toEqual([400, 300, "k".repeat(16)]);
});

test("until a new one comes, the last picture moves and grows with the hand", () => {
  const { canvas, drawn } = paper();
  const part = { x: 10, y: 10, width: 20, height: 20 }; // it was a close look at a corner
  drawTable(
    canvas,
    TABLE,
    { x: 0, y: 0, width: 400, height: 200, zoom: 4 },
    shownOf(pane("dots", part)),
    still,
    0,
  );
  expect(drawn).toEqual([["drawImage", "dots", 40, 40, 80, 80]]);
});

test("under a wipe the stage before lies left of the edge and the stage after right of it", () => {
  const { canvas, drawn } = paper();
  const placed = { x: 0, y: 0, width: 400, height: 200, zoom: 4 };
  drawTable(
    canvas,
    TABLE,
    placed,
    shownOf(pane("after"), pane("before")),
    { ...still, on: true, at: 0.25 },
    0,
  );
  expect(drawn).toEqual([
    ["rect", 0, 0, 100, 300],
    ["clip"],
    ["drawImage", "before", 0, 0, 400, 200],
    ["rect", 100, 0, 300, 300],
    ["clip"],
    ["drawImage", "after", 0, 0, 400, 200],
  ]);
});

test("with nothing to show nothing is drawn", () => {
  const { canvas, drawn } = paper();
  drawTable(canvas, TABLE, null, null, still, 0);
  expect(drawn).toEqual([]);
});

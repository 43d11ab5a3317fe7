/** @jest-environment jsdom */
import { type Placing } from "@hardline/core/sheet/arrangement";
import { readSheetBody } from "@hardline/core/sheet/sheetFile";
import { act, render } from "@testing-library/react";
import { SheetTable } from "./SheetTable";
import { type SheetWork } from "./useSheetWork";

// One pixel is one millimetre: the stock, and what is left free about it.
jest.mock("@mantine/hooks", () => ({ useElementSize: () => ({ ref: null, width: 648, height: 364 }) }));

const placing = (xMm: number): Placing => ({
  ...{ piece: 0, sheet: 0, xMm, yMm: 100, turnDegrees: 0, mirrored: false },
});
const tag = {
  ...{ outline: [0, 0, 60, 0, 60, 40, 0, 40], box: { x: 0, y: 0, width: 60, height: 40 } },
  ...{ pictureUrl: "/tag.png", picture: { xMm: 0, yMm: 0, widthMm: 60, heightMm: 40 }, printed: false },
};

/** The table with two copies; every laying waits until it is let on. */
function table() {
  const laid: { at: number; xMm: number; done: boolean; letOn: () => void }[] = [];
  const work = {
    body: readSheetBody({ stock: { widthMm: 600, heightMm: 300 }, pieces: [{ routeId: "9", count: 2 }] }),
    placings: [placing(100), placing(300)],
    pieces: [tag],
    lay: (at: number, to: Placing, done: boolean) =>
      new Promise<void>((letOn) => laid.push({ at, xMm: to.xMm, done, letOn })),
  } as unknown as SheetWork;
  const { container } = render(
    <SheetTable work={work} reach={undefined} shown={0} chosen={null} choose={() => undefined} />,
  );
  const svg = container.querySelector<SVGSVGElement>("svg[role=img]")!;
  svg.setPointerCapture = () => undefined;
  const copies = () => Array.from(svg.querySelectorAll("g g"), (g) => g.getAttribute("transform")!);
  const hand = (what: string, x: number, on: Element = svg) =>
    act(async () => {
      on.dispatchEvent(new MouseEvent(what, { bubbles: true, clientX: x, clientY: 50 }));
    });
  const letOn = (k: number) => act(async () => laid[k].letOn());
  return { laid, copies, hand, letOn, first: svg.querySelectorAll("g g")[0] };
}

test("a copy follows the hand before it is known where the others go, and they give way to where it is by then", async () => {
  const { laid, copies, hand, letOn, first } = table();
  await hand("pointerdown", 10, first);
  for (const x of [30, 50, 80]) await hand("pointermove", x);
  expect(copies()[0]).toContain("translate(170 100)");
  expect(copies()[1]).toContain("translate(300 100)");
  // One at a time is asked for: the first, then where the hand has come to meanwhile.
  expect(laid.map((l) => l.xMm)).toEqual([120]);
  await letOn(0);
  expect(laid.map((l) => l.xMm)).toEqual([120, 170]);
  await letOn(1);
  expect(laid).toHaveLength(2);
});

test("let go, it is laid where it was left, after what was still under way", async () => {
  const { laid, copies, hand, letOn, first } = table();
  await hand("pointerdown", 10, first);
  await hand("pointermove", 40);
  await hand("pointerup", 60);
  expect(laid.map((l) => l.done)).toEqual([false]);
  await letOn(0);
  expect(laid.map(({ at, xMm, done }) => [at, xMm, done])).toEqual([
    [0, 130, false],
    [0, 150, true],
  ]);
  expect(copies()[0]).toContain("translate(150 100)");
  await letOn(1);
  // The table's own places hold again.
  expect(copies()[0]).toContain("translate(100 100)");
});

test("a press that moves nothing lays nothing", async () => {
  const { laid, hand, first } = table();
  await hand("pointerdown", 10, first);
  await hand("pointerup", 10);
  expect(laid).toEqual([]);
});

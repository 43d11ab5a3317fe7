import sharp from "sharp";
import { type Browser, type Page } from "puppeteer-core";
import { openBrowser, press, settled, type } from "./browser";
import { AS_IT_IS, handedOver, onScreen, openClear, ops } from "./clearing";
import { newDatabase, startProgram, type Program } from "./harness";
import { nightly } from "./nightly";

/* The tools of Clear that are worked by hand: outlines, points, a pen, the order of things, and the ways to look. */
let program: Program;
let browser: Browser;
let close: () => Promise<void>;

const [WIDTH, HEIGHT] = [900, 700];
/** A red ball on a blue wall. */
const scene = (): Promise<Buffer> =>
  sharp({ create: { width: WIDTH, height: HEIGHT, channels: 3, background: "#8fb3c9" } })
    .composite([
      {
        input: Buffer.from(
          `<svg width="${WIDTH}" height="${HEIGHT}"><circle cx="450" cy="350" r="210" fill="#b5482e"/></svg>`,
        ),
      },
    ])
    .png()
    .toBuffer();

beforeAll(async () => {
  program = await startProgram(await newDatabase());
  ({ browser, close } = await openBrowser());
});
afterAll(async () => {
  await close?.();
  await program?.stop();
});

const at = (page: Page, u: number, v: number) => onScreen(page, u, v, WIDTH, HEIGHT);

async function drag(page: Page, from: [number, number], to: [number, number]): Promise<void> {
  await page.mouse.move(...(await at(page, ...from)));
  await page.mouse.down();
  await page.mouse.move(...(await at(page, ...to)), { steps: 5 });
  await page.mouse.up();
}

/** Colour of what the light table shows at a place of the picture. */
async function shownAt(page: Page, u: number, v: number): Promise<number[]> {
  const [x, y] = await at(page, u, v);
  return page.$eval(
    "canvas[data-shown]",
    (element, sx, sy) => {
      const canvas = element as HTMLCanvasElement;
      const { left, top, width } = canvas.getBoundingClientRect();
      const scale = canvas.width / width;
      const pen = canvas.getContext("2d")!;
      return Array.from(pen.getImageData((sx - left) * scale, (sy - top) * scale, 1, 1).data.slice(0, 3));
    },
    x,
    y,
  );
}
const shows = (page: Page, u: number, v: number, wanted: (rgb: number[]) => boolean) =>
  expectSoon(async () => wanted(await shownAt(page, u, v)));

async function expectSoon(holds: () => Promise<boolean>): Promise<void> {
  for (let k = 0; k < 100; k++) {
    if (await holds()) return;
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error("it did not come to hold within ten seconds");
}
const isGrey = ([r, g, b]: number[]) => Math.abs(r - g) < 3 && Math.abs(g - b) < 3;

test("a round outline is dragged to the ball; a path is set point by point, curved, and mended", async () => {
  const { page, routeId } = await openClear(browser, program.url, await scene(), "ball.png");
  const kept = () => ops(program.url, routeId);
  await press(page, "Shape");
  await settled(page);
  // Its corners stand at 0.1 and 0.9; the ball reaches from 240 to 660 across and from 140 to 560 down.
  await drag(page, [0.1, 0.1], [240 / WIDTH, 140 / HEIGHT]);
  await settled(page);
  await drag(page, [0.9, 0.9], [660 / WIDTH, 560 / HEIGHT]);
  await settled(page);
  const [round] = (await kept()) as unknown as { kind: string; box: number[] }[];
  expect(round.kind).toBe("round");
  [240 / WIDTH, 140 / HEIGHT, 420 / WIDTH, 420 / HEIGHT].forEach((v, k) =>
    expect(Math.abs(round.box[k] - v)).toBeLessThan(0.006),
  );
  await shows(page, 0.1, 0.1, ([r, g, b]) => r > 200 && g > 200 && b > 200); // the backing shows, hatched
  await shows(page, 0.5, 0.5, ([r, g, b]) => r > 150 && g < 100 && b < 80);

  await press(page, "path");
  await settled(page);
  const points = [
    [0.2, 0.2],
    [0.8, 0.2],
    [0.8, 0.8],
    [0.2, 0.8],
    [0.1, 0.5],
  ] as [number, number][];
  for (const point of points.slice(0, 4)) {
    await page.mouse.click(...(await at(page, ...point)));
    await settled(page);
  }
  // The last is dragged as it is set, and so curved.
  await drag(page, points[4], [0.1, 0.4]);
  await settled(page);
  type Path = { knots: { at: number[]; in?: number[]; out?: number[] }[] };
  let [path] = (await kept()) as unknown as Path[];
  expect(path.knots).toHaveLength(5);
  points.forEach((p, i) =>
    p.forEach((v, k) => expect(Math.abs(path.knots[i].at[k] - v)).toBeLessThan(0.004)),
  );
  expect(path.knots.map((k) => k.out !== undefined)).toEqual([false, false, false, false, true]);
  expect(path.knots[4].out![1]).toBeLessThan(-0.09);
  expect(path.knots[4].in![1]).toBeGreaterThan(0.09);

  await page.mouse.click(...(await at(page, 0.8, 0.2)), { count: 2 }); // a corner becomes smooth
  await settled(page);
  await page.keyboard.down("Alt");
  await page.mouse.click(...(await at(page, 0.8, 0.8))); // a point goes
  await page.keyboard.up("Alt");
  await settled(page);
  [path] = (await kept()) as unknown as Path[];
  expect(path.knots).toHaveLength(4);
  expect(path.knots[1].out).toBeDefined();
  expect(path.knots[2].at[0]).toBeCloseTo(0.2, 1);

  const { data } = await handedOver(page);
  const alpha = (u: number, v: number) =>
    data[(Math.round(v * HEIGHT) * WIDTH + Math.round(u * WIDTH)) * 4 + 3];
  expect([alpha(0.4, 0.5), alpha(0.95, 0.95), alpha(0.03, 0.1)]).toEqual([255, 0, 0]);
  await page.close();
});

nightly("a pen's pressure makes a stroke thinner", async () => {
  const { page, routeId } = await openClear(browser, program.url, await scene(), "pen.png");
  await press(page, "Eraser");
  await settled(page);
  await type(page, "Size, typed", "12");
  const client = await page.createCDPSession();
  const send = async (
    kind: "mousePressed" | "mouseMoved" | "mouseReleased",
    u: number,
    v: number,
    force: number,
  ) => {
    const [x, y] = await at(page, u, v);
    const buttons = kind === "mouseReleased" ? 0 : 1;
    await client.send("Input.dispatchMouseEvent", {
      ...{ type: kind, x, y, force, buttons, button: "left", pointerType: "pen", clickCount: 1 },
    });
  };
  for (const [v, force] of [
    [0.3, 1],
    [0.7, 0.25],
  ]) {
    await send("mousePressed", 0.3, v, force);
    for (let u = 0.34; u < 0.68; u += 0.04) await send("mouseMoved", u, v, force);
    await send("mouseReleased", 0.7, v, force);
    await settled(page);
  }
  const [brush] = (await ops(program.url, routeId)) as unknown as { strokes: { points: number[][] }[] }[];
  expect(brush.strokes).toHaveLength(2);
  expect(brush.strokes[0].points.length).toBeGreaterThan(5);
  const pressures = brush.strokes.map((s) => s.points[2][2]);
  expect(pressures[0]).toBeCloseTo(1, 1);
  expect(pressures[1]).toBeCloseTo(0.25, 1);
  const { data } = await handedOver(page);
  const gone = (v: number) => {
    let count = 0;
    for (let y = 0; y < HEIGHT; y++)
      if (Math.abs(y - v * HEIGHT) < 140 && data[(y * WIDTH + WIDTH / 2) * 4 + 3] < 128) count++;
    return count;
  };
  expect(Math.abs(gone(0.3) - 120)).toBeLessThan(6); // 12 mm at 10 dots a millimetre
  expect(gone(0.7)).toBeLessThan(60);
  expect(gone(0.7)).toBeGreaterThan(5);
  await page.close();
});

nightly(
  "what is left is looked at as alpha, as tint, and beside what was there; the order is changed by dragging",
  async () => {
    // A patch at the lower right is there by two steps of cover in 255: nobody sees it, and it prints.
    const data = await sharp(await scene())
      .ensureAlpha()
      .raw()
      .toBuffer();
    for (let y = 560; y < 680; y++)
      for (let x = 740; x < 880; x++) data.set([20, 90, 30, 2], (y * WIDTH + x) * 4);
    const picture = await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 4 } })
      .png()
      .toBuffer();
    const clear = { stage: "clear", ops: [{ op: "pick", at: [0.05, 0.05], tolerance: 8 }] };
    const { page, routeId } = await openClear(browser, program.url, picture, "looks.png", [AS_IT_IS, clear]);
    const [wall, ball, patch] = [
      [0.06, 0.9],
      [0.5, 0.5],
      [0.9, 0.88],
    ] as [number, number][];
    const isBall = ([r, g]: number[]) => r > 150 && g < 100;
    const isWall = (c: number[]) => [0x8f, 0xb3, 0xc9].every((v, k) => Math.abs(c[k] - v) < 4);
    const bareAt = () => shownAt(page, ...wall);
    const apart = async () => {
      const [bare, tinted] = [await bareAt(), await shownAt(page, ...patch)];
      return Math.max(...bare.map((v, k) => Math.abs(v - tinted[k])));
    };
    await shows(page, ...ball, isBall);
    const text = await page.$eval('[aria-label="Checks and readings"]', (e) => e.textContent!);
    expect(text).toContain("Faint tint outside the art");

    await page.keyboard.press("a");
    await shows(page, ...ball, (c) => isGrey(c) && c[0] > 250); // whole: white
    await shows(page, ...wall, (c) => isGrey(c) && c[0] < 5); // gone: black
    expect(await apart()).toBeLessThan(8);
    await page.keyboard.press("t");
    await expectSoon(async () => (await apart()) > 60);
    await page.keyboard.press("t");
    await shows(page, ...ball, isBall);

    await press(page, "Wipe");
    await page.waitForSelector('[aria-label="Edge of the wipe; arrow keys move it"]');
    await shows(page, ...wall, isWall); // left of the edge what came in,
    await shows(page, 0.94, 0.1, (c) => !isWall(c)); // right of it what is left
    await press(page, "Wipe");
    await shows(page, ...wall, (c) => !isWall(c));

    await press(page, "Lift");
    await settled(page);
    const order = async () => (await ops(program.url, routeId)).map((o) => o.op).join();
    expect(await order()).toBe("pick,lift");
    const lines = await page.$$('[aria-label="What is taken away"] > li > div > button:first-child');
    const [first, second] = await Promise.all(lines.map(async (l) => (await l.boundingBox())!));
    await page.mouse.move(second.x + 40, second.y + second.height / 2);
    await page.mouse.down();
    await page.mouse.move(first.x + 40, first.y + first.height / 2 - 4, { steps: 8 });
    await page.mouse.up();
    await expectSoon(async () => (await order()) === "lift,pick");
    await page.close();
  },
);

nightly("a lift's paper is clicked on", async () => {
  const paper = await sharp({ create: { width: WIDTH, height: HEIGHT, channels: 3, background: "#ead9b0" } })
    .composite([
      {
        input: Buffer.from(
          `<svg width="${WIDTH}" height="${HEIGHT}"><rect x="500" width="400" height="${HEIGHT}" fill="#c9d4dd"/><path d="M60 350h780" stroke="#1b1d22" stroke-width="12"/></svg>`,
        ),
      },
    ])
    .png()
    .toBuffer();
  const { page, routeId } = await openClear(browser, program.url, paper, "two-papers.png");
  await press(page, "Lift");
  await settled(page);
  await press(page, "own colour");
  await settled(page);
  await page.mouse.click(...(await at(page, 0.8, 0.2)));
  await expectSoon(async () => (await ops(program.url, routeId))[0].paper === "#c9d4dd");
  await page.mouse.click(...(await at(page, 0.2, 0.2)));
  await expectSoon(async () => (await ops(program.url, routeId))[0].paper === "#ead9b0");
  await page.close();
});

test("a shadow is freed by a click, and a pale part that a pick took comes back with a press", async () => {
  const svg = (parts: string): Buffer =>
    Buffer.from(`<svg width="${WIDTH}" height="${HEIGHT}">${parts}</svg>`);
  const shadow = `<defs><filter id="f" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur stdDeviation="18"/></filter></defs>
    <ellipse cx="260" cy="520" rx="150" ry="50" fill="#000" fill-opacity="0.5" filter="url(#f)"/>`;
  const truth = await sharp(svg(shadow)).ensureAlpha().extractChannel(3).raw().toBuffer();
  const drawn = svg(`<rect width="100%" height="100%" fill="rgb(240,232,214)"/>${shadow}
    <circle cx="620" cy="300" r="120" fill="#b5482e"/><circle cx="620" cy="420" r="60" fill="#fffaf2"/>`);
  const picture = await sharp(drawn).removeAlpha().png().toBuffer();
  const { page, routeId } = await openClear(browser, program.url, picture, "shadow.png");
  await type(page, "Tolerance, typed", "14");
  await page.mouse.click(...(await at(page, 0.05, 0.05)));
  await settled(page);
  await press(page, "See-through");
  await page.mouse.click(...(await at(page, 260 / WIDTH, 520 / HEIGHT)));
  await settled(page);
  await page.waitForSelector("b::-p-text(1 part of the art taken)", { timeout: 30000 });
  await press(page, "Bring it back");
  await settled(page);
  expect((await ops(program.url, routeId)).map((o) => o.op)).toEqual(["pick", "through", "back"]);
  const { data, width } = await handedOver(page);
  const pixel = (x: number, y: number) =>
    Array.from(data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4));
  for (const [x, y] of [
    [260, 520],
    [380, 520],
    [410, 520],
    [200, 480],
    [260, 575],
  ]) {
    const [r, g, b, a] = pixel(x, y);
    expect([Math.max(r, g, b) < 12, Math.abs(a - truth[y * WIDTH + x]) < 5]).toEqual([true, true]);
  }
  expect(pixel(60, 60)[3]).toBe(0);
  expect(pixel(620, 450)).toEqual([255, 250, 242, 255]);
  expect(pixel(620, 300)).toEqual([181, 72, 46, 255]);
  await page.close();
});

import { type ArtworkView } from "@hardline/contract";
import { readRoute } from "@hardline/core/route/route";
import { expose } from "comlink";
import { MessageChannel, type MessagePort } from "node:worker_threads";
import { BenchEngine, type ShowRequest } from "./BenchEngine";
import { keepSpareWorker, readAhead } from "./spareWorker";

/** A worker that lives in this thread, answers when told to, and can be made to die. */
class FakeWorker {
  static all: FakeWorker[] = [];
  readonly shows: {
    readonly name: string;
    readonly draft: () => void;
    readonly noDraft: () => void;
    readonly answer: () => void;
    readonly fail: (message: string) => void;
  }[] = [];
  stops = 0;
  /** It helps the screen's own. */
  helps = false;
  /** Tells how far it is. */
  far: (share: number, stage: string) => void = () => undefined;
  /** Has the others take part in what it shares out. */
  join: ((job: unknown) => void) | null = null;
  readonly joined: unknown[] = [];
  terminated = false;
  onerror: (() => void) | null = null;
  private readonly channel = new MessageChannel();

  constructor() {
    FakeWorker.all.push(this);
    let first: (shown: unknown, wish: number) => void = () => undefined;
    const shown = (key: string, panes: unknown, draft: boolean) => ({ panes, key, finish: null, draft });
    const api = {
      open: (
        _id: string,
        _facts: unknown,
        room: number,
        far: FakeWorker["far"],
        tell: typeof first,
        join: FakeWorker["join"],
      ) => {
        this.far = far;
        this.join = join;
        first = tell;
        // The screen's has twice the room of those that help it.
        this.helps = room < 320 << 20;
      },
      stop: () => void this.stops++,
      show: ({ name }: { name: string }, panes: unknown, wish: number) =>
        new Promise((done, failed) => {
          this.shows.push({
            name,
            draft: () => first(shown(`${name}, draft`, panes, true), wish),
            noDraft: () => first(null, wish),
            answer: () => done(shown(name, panes, false)),
            fail: (message) => failed(new Error(message)),
          });
        }),
      warmUp: () => undefined,
      readAhead: () => undefined,
      share: () => [],
      take: () => undefined,
      ready: () => true,
      joinIn: (job: unknown) => void this.joined.push(job),
      inspect: (_route: unknown, part: number) => ({
        key: "k",
        stages: [
          { stage: part ? "tone" : "artwork", readings: {}, checks: [{ id: `c${part}` }], bitmap: null },
        ],
        fingerprint: part ? "f" : null,
        thumbnail: null,
      }),
      strip: (routes: { name: string }[]) => routes.map((r) => r.name),
    };
    expose(api, this.channel.port2 as never);
  }
  postMessage = (...args: Parameters<MessagePort["postMessage"]>) => this.channel.port1.postMessage(...args);
  /** Ways to it that were opened. */
  ways = 0;
  addEventListener = (kind: string, listener: never) => {
    this.ways++;
    this.channel.port1.addEventListener(kind as "message", listener);
    this.channel.port1.start();
  };
  removeEventListener = (kind: string, listener: never) =>
    this.channel.port1.removeEventListener(kind as "message", listener);
  terminate = () => {
    this.terminated = true;
    this.channel.port1.close();
  };
}

const artwork = { id: "1", sha256: "", width: 1, height: 1, vector: false } as ArtworkView;
const wish = (name: string): ShowRequest => ({
  route: readRoute({ format: "hard-line-route", version: 1, name, stages: [] }),
  panes: [],
});
const turn = () => new Promise((r) => setTimeout(r, 60));

function bench() {
  const shown: string[] = [];
  const faults: (string | null)[] = [];
  const progress: number[] = [];
  let begun = 0;
  const engine = new BenchEngine(artwork, {
    begun: () => begun++,
    shown: (s) => shown.push(s.key),
    progress: (share) => progress.push(share),
    fault: (f) => faults.push(f),
  });
  const worker = () => FakeWorker.all.filter((w) => !w.helps).at(-1)!;
  return { engine, shown, faults, progress, worker, begun: () => begun };
}

beforeEach(() => {
  FakeWorker.all = [];
  Object.assign(globalThis, { Worker: FakeWorker });
});

test("while one wish is at work, later ones replace each other and the last is served", async () => {
  const { engine, shown, worker } = bench();
  for (const name of ["a", "b", "c", "d"]) engine.show(wish(name));
  await turn();
  expect(worker().shows.map((s) => s.name)).toEqual(["a"]);
  worker().shows[0].answer();
  await turn();
  expect(worker().shows.map((s) => s.name)).toEqual(["a", "d"]);
  worker().shows[1].answer();
  await turn();
  expect(shown).toEqual(["a", "d"]);
  engine.close();
});

test("once a draft is drawn, a newer wish goes out at once, and the older one's exact is not shown", async () => {
  const { engine, shown, worker } = bench();
  const drawn: string[] = [];
  engine.whenShown((s) => drawn.push(s.key));
  for (const name of ["a", "b"]) engine.show(wish(name));
  await turn();
  worker().shows[0].draft();
  await turn();
  expect(worker().shows.map((s) => s.name)).toEqual(["a", "b"]);
  worker().shows[0].answer();
  worker().shows[1].draft();
  await turn();
  worker().shows[1].answer();
  await turn();
  expect(drawn).toEqual(["a, draft", "b, draft", "b"]);
  expect(shown).toEqual(["b"]);
  engine.close();
});

test("how far it is comes by a way of its own: what arrives after the picture is not told any more", async () => {
  const { engine, progress, worker } = bench();
  engine.show(wish("a"));
  await turn();
  worker().far(0.4, "tone");
  await turn();
  worker().shows[0].draft();
  worker().far(0.7, "tone");
  await turn();
  worker().shows[0].answer();
  await turn();
  worker().far(1, "tone");
  await turn();
  expect(progress).toEqual([0.4, 0.7]);
  engine.show(wish("b"));
  await turn();
  worker().far(0.1, "tone");
  await turn();
  worker().shows[1].fail("No.");
  await turn();
  worker().far(0.2, "tone");
  await turn();
  expect(progress).toEqual([0.4, 0.7, 0.1]);
  engine.close();
});

test("checks and strips are spread over two workers, put together in order, and give way to the screen", async () => {
  const { engine, worker } = bench();
  const route = readRoute({ format: "hard-line-route", version: 1, name: "a", stages: [{ stage: "tone" }] });
  const found = await engine.inspect(route);
  expect(found!.stages.map((s) => s.stage)).toEqual(["artwork", "tone"]);
  expect([found!.checks.map((c) => c.id), found!.fingerprint]).toEqual([["c0", "c1"], "f"]);
  const routes = ["p", "q", "r"].map((name) => ({ ...route, name }));
  expect(await engine.strip(routes, {} as never)).toEqual(["p", "q", "r"]);
  const late = engine.inspect(route);
  engine.show(wish("b"));
  await turn();
  const helpers = FakeWorker.all.filter((w) => w.helps);
  expect(helpers.map((w) => w.stops)).toEqual([1, 1]);
  expect(await late).toBeNull(); // something newer came in between
  worker().shows[0].answer();
  await turn();
  engine.close();
});

test("helpers are started once there is a first picture, or at once when they are needed; the rest of the bench is told", async () => {
  const { engine, worker, begun } = bench();
  engine.show(wish("a"));
  await turn();
  expect([FakeWorker.all.length, begun()]).toEqual([1, 0]);
  worker().shows[0].draft();
  await turn();
  expect([FakeWorker.all.length, begun()]).toEqual([1, 1]);
  await new Promise((later) => setTimeout(later, 900));
  expect(FakeWorker.all.filter((w) => w.helps)).toHaveLength(2);
  worker().shows[0].answer();
  await turn();
  expect([FakeWorker.all.length, begun()]).toEqual([3, 1]);
  engine.close();
  await turn();
  expect(FakeWorker.all.every((w) => w.terminated)).toBe(true);
});

test("what the screen's worker shares out reaches those that help it, and what they do is not shared out again", async () => {
  const { engine, worker } = bench();
  engine.show(wish("a"));
  await turn();
  worker().join!({ name: "before anybody helps" });
  await turn();
  void engine.inspect(wish("a").route);
  await turn();
  const helpers = FakeWorker.all.filter((w) => w.helps);
  const job = { name: "rows", given: { from: 3 } };
  worker().join!(job);
  await turn();
  expect(helpers.map((w) => w.joined)).toEqual([[job], [job]]);
  expect(helpers.map((w) => w.join)).toEqual([null, null]);
  engine.close();
});

test("where there is no draft, what stands in stays until the exact is there", async () => {
  const { engine, worker, begun } = bench();
  engine.show(wish("a"));
  await turn();
  worker().shows[0].noDraft();
  await turn();
  expect(begun()).toBe(0);
  worker().shows[0].answer();
  await turn();
  expect(begun()).toBe(1);
  engine.close();
});

test("a worker that was started ahead is the next bench's, and no other's", async () => {
  keepSpareWorker();
  keepSpareWorker();
  const [spare] = FakeWorker.all;
  expect(FakeWorker.all).toHaveLength(1);
  const one = bench();
  expect([one.worker() === spare, FakeWorker.all.length]).toEqual([true, 1]);
  const two = bench();
  expect(two.worker()).not.toBe(spare);
  one.engine.close();
  two.engine.close();
});

test("there is one way to a worker, held as long as it: one let go would have it listen no more", async () => {
  keepSpareWorker();
  readAhead(artwork);
  const { engine, worker } = bench();
  engine.show(wish("a"));
  await turn();
  expect(worker().shows.map((s) => s.name)).toEqual(["a"]);
  expect(FakeWorker.all.map((w) => w.ways)).toEqual([1]);
  engine.close();
});

test("a worker that died while it waited is not handed out", () => {
  keepSpareWorker();
  FakeWorker.all[0].onerror!();
  const { engine, worker } = bench();
  expect(worker()).not.toBe(FakeWorker.all[0]);
  engine.close();
});

test("the same wish twice is one", async () => {
  const { engine, worker } = bench();
  const one = wish("a");
  engine.show(one);
  engine.show({ ...one });
  engine.showRoute(one.route);
  worker().shows[0]?.answer();
  await turn();
  expect(worker().shows).toHaveLength(1);
  engine.close();
});

test("what fails is told in words, and may be asked for again", async () => {
  const { engine, shown, faults, worker } = bench();
  const one = wish("a");
  engine.show(one);
  await turn();
  worker().shows[0].fail("size: widthMm is 0; allowed: 1 or more");
  await turn();
  expect(faults).toEqual(["size: widthMm is 0; allowed: 1 or more"]);
  engine.show(one);
  await turn();
  worker().shows[1].answer();
  await turn();
  expect([shown, faults[1]]).toEqual([["a"], null]);
  engine.close();
});

test("a worker that dies is replaced, and the last wish is taken up by the new one", async () => {
  const { engine, shown, worker } = bench();
  engine.show(wish("a"));
  engine.show(wish("b"));
  await turn();
  const dead = worker();
  dead.onerror!();
  await turn();
  expect(dead.terminated).toBe(true);
  await turn();
  expect(worker()).not.toBe(dead);
  expect(worker().shows.map((s) => s.name)).toEqual(["b"]);
  worker().shows[0].answer();
  await turn();
  expect(shown).toEqual(["b"]);
  engine.close();
});

test("workers that cannot start are tried a few times, then it is said", async () => {
  const { engine, faults, worker } = bench();
  engine.show(wish("a"));
  for (let k = 0; k < 20; k++) {
    worker().onerror!();
    await turn();
  }
  expect(FakeWorker.all).toHaveLength(4); // none got so far that it needed helpers
  expect(faults).toEqual([
    expect.stringMatching(/cannot be started. Load the page again; what you set is kept/),
  ]);
  engine.close();
});

test("a picture is drawn before anything else hears of it", async () => {
  const { engine, shown, worker } = bench();
  const order: string[] = [];
  engine.whenShown(() => order.push(`drawn, ${shown.length} told`));
  engine.show(wish("a"));
  await turn();
  worker().shows[0].answer();
  await turn();
  expect(order).toEqual(["drawn, 0 told"]);
  expect(shown).toEqual(["a"]);
  engine.close();
});

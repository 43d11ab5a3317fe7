import { type ArtworkView } from "@hardline/contract";
import { readRoute } from "@hardline/core";
import { expose } from "comlink";
import { MessageChannel, type MessagePort } from "node:worker_threads";
import { BenchEngine, type ShowRequest } from "./BenchEngine";

/** A worker that lives in this thread, answers when told to, and can be made to die. */
class FakeWorker {
  static all: FakeWorker[] = [];
  readonly shows: { name: string; answer: () => void; fail: (message: string) => void }[] = [];
  terminated = false;
  onerror: (() => void) | null = null;
  private readonly channel = new MessageChannel();

  constructor() {
    FakeWorker.all.push(this);
    const api = {
      open: () => undefined,
      show: (route: { name: string }, panes: unknown) =>
        new Promise((done, failed) => {
          this.shows.push({
            name: route.name,
            answer: () => done({ panes, key: route.name, finish: null }),
            fail: (message) => failed(new Error(message)),
          });
        }),
    };
    expose(api, this.channel.port2 as never);
  }
  postMessage = (...args: Parameters<MessagePort["postMessage"]>) => this.channel.port1.postMessage(...args);
  addEventListener = (kind: string, listener: never) => {
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
  upTo: "blackWhite",
});
const turn = () => new Promise((r) => setTimeout(r, 20));

function bench() {
  const shown: string[] = [];
  const faults: (string | null)[] = [];
  const engine = new BenchEngine(artwork, {
    shown: (s) => shown.push(s.key),
    progress: () => undefined,
    fault: (f) => faults.push(f),
  });
  const worker = () => FakeWorker.all[FakeWorker.all.length - 1];
  return { engine, shown, faults, worker };
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
  expect(dead.terminated).toBe(true);
  await turn();
  expect(worker()).not.toBe(dead);
  expect(worker().shows.map((s) => s.name)).toEqual(["b"]);
  worker().shows[0].answer();
  await turn();
  expect(shown).toEqual(["b"]);
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

import { type RouteView } from "@hardline/contract";
import { readRoute, settingsOf, withSettings, type Route } from "@hardline/core/route/route";
import { Offline, Refusal } from "../api/client";
import { type Shelf } from "../keeper/Keeper";
import { RouteKeeper } from "./RouteKeeper";

const START = readRoute({ format: "hard-line-route", version: 1, name: "A", stages: [{ stage: "tone" }] });
const withBlack = (value: number): Route => withSettings(START, "tone", { black: value });
const blackOf = (route: Route) => settingsOf(route, "tone")!.black;
const viewOf = (route: Route, version: number): RouteView => ({
  id: "7",
  ticketId: "1",
  version,
  revision: version,
  canUndo: version > 1,
  canRedo: false,
  savedAt: "",
  route,
});

/** A server that keeps one route, with somebody else able to change it, and a wire that can be cut. */
class FakeServer {
  current = viewOf(START, 1);
  cut = false;
  saves = 0;

  private guard(version: number): void {
    if (this.cut) throw new Offline();
    if (version !== this.current.version) {
      throw new Refusal({
        type: "about:blank",
        title: "",
        status: 409,
        detail: "changed",
        current: this.current,
      });
    }
  }
  get = async () => {
    if (this.cut) throw new Offline();
    return this.current;
  };
  save = async (version: number, route: Route) => {
    this.guard(version);
    this.saves++;
    return (this.current = viewOf(route, version + 1));
  };
  undo = async (version: number) => {
    this.guard(version);
    return (this.current = viewOf(START, version + 1));
  };
  redo = this.undo;
  bringBack = async (revision: number, version: number) => {
    this.guard(version);
    return (this.current = viewOf(withBlack(revision / 100), version + 1));
  };
}

function shelf(): Shelf & { readonly items: Map<string, string> } {
  const items = new Map<string, string>();
  return {
    items,
    getItem: (k) => items.get(k) ?? null,
    setItem: (k, v) => void items.set(k, v),
    removeItem: (k) => void items.delete(k),
  };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());
const rest = (ms = 400) => jest.advanceTimersByTimeAsync(ms);

test("a change shows at once and is saved when the hand rests; a drag is one revision", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  for (let i = 1; i <= 20; i++) {
    keeper.change(withBlack(i / 100));
    await jest.advanceTimersByTimeAsync(16);
  }
  expect(blackOf(keeper.get().value)).toBe(0.2);
  expect(keeper.get().state).toBe("saving");
  expect(server.saves).toBe(0);
  await rest();
  expect([server.saves, keeper.get().state, blackOf(server.current.route)]).toEqual([1, "saved", 0.2]);
});

test("a change made while another is on its way is saved after it", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  const plain = server.save;
  server.save = async (version, route) => {
    await new Promise((r) => setTimeout(r, 1000));
    return plain(version, route);
  };
  keeper.change(withBlack(0.1));
  await rest();
  keeper.change(withBlack(0.3));
  await rest(5000);
  expect([server.saves, keeper.get().state, blackOf(server.current.route)]).toEqual([2, "saved", 0.3]);
});

test("undo first saves what is unsaved, so that it undoes the last thing done", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  keeper.change(withBlack(0.4));
  await keeper.undo();
  expect([server.saves, blackOf(keeper.get().value), keeper.get().state]).toEqual([1, 0, "saved"]);
});

/** Answers only after a while, as over a slow line. */
const slowly =
  <A extends unknown[], T>(act: (...args: A) => Promise<T>) =>
  async (...args: A): Promise<T> => {
    const answer = await act(...args);
    await new Promise((r) => setTimeout(r, 500));
    return answer;
  };

test("two quick undos are two steps, not a conflict with oneself", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  keeper.change(withBlack(0.1));
  await rest();
  server.undo = slowly(server.undo);
  const both = Promise.all([keeper.undo(), keeper.undo()]);
  await rest(2000);
  await both;
  expect([keeper.get().state, keeper.get().theirs, server.current.version]).toEqual(["saved", null, 4]);
});

test("an edit during an undo stays, and is saved after it", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  keeper.change(withBlack(0.1));
  await rest();
  server.undo = slowly(server.undo);
  const undone = keeper.undo();
  await rest(100);
  keeper.change(withBlack(0.7));
  expect(blackOf(keeper.get().value)).toBe(0.7);
  await rest(3000);
  await undone;
  expect([keeper.get().state, blackOf(keeper.get().value), blackOf(server.current.route)]).toEqual([
    "saved",
    0.7,
    0.7,
  ]);
});

test("an undo whose answer was lost is looked up, neither done twice nor taken for somebody else's", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  keeper.change(withBlack(0.1));
  await rest();
  const plain = server.undo;
  server.undo = async (version) => {
    await plain(version);
    throw new Offline();
  };
  await keeper.undo();
  expect(keeper.get().state).toBe("offline");
  await rest(4000);
  expect([keeper.get().state, blackOf(keeper.get().value), server.current.version]).toEqual(["saved", 0, 3]);
});

test("a full shelf is no hindrance, and gives back nothing older", async () => {
  const server = new FakeServer();
  const own = shelf();
  own.items.set("hardline.unsaved.route.7", "old");
  const keeper = new RouteKeeper(server.current, server, {
    ...own,
    setItem: () => {
      throw new Error("quota");
    },
  });
  keeper.change(withBlack(0.2));
  expect(blackOf(keeper.get().value)).toBe(0.2);
  await rest();
  expect([keeper.get().state, blackOf(server.current.route), own.items.size]).toEqual(["saved", 0.2, 0]);
});

test("what the server refuses is said with its reason, and not sent again until it is changed", async () => {
  const server = new FakeServer();
  const keeper = new RouteKeeper(server.current, server, shelf());
  const plain = server.save;
  let asked = 0;
  server.save = async () => {
    asked++;
    throw new Refusal({
      type: "about:blank",
      title: "",
      status: 413,
      detail: "The body is larger than 8 MB.",
    });
  };
  keeper.change(withBlack(0.2));
  await rest(20000);
  expect([asked, keeper.get().state, keeper.get().reason]).toEqual([
    1,
    "refused",
    "The body is larger than 8 MB.",
  ]);
  server.save = plain;
  keeper.change(withBlack(0.3));
  await rest();
  expect([keeper.get().state, keeper.get().reason, blackOf(server.current.route)]).toEqual([
    "saved",
    null,
    0.3,
  ]);
});

test("with the server away the change is kept, on the shelf too, and sent when it is back", async () => {
  const server = new FakeServer();
  const own = shelf();
  const keeper = new RouteKeeper(server.current, server, own);
  server.cut = true;
  keeper.change(withBlack(0.2));
  await rest();
  expect([keeper.get().state, blackOf(keeper.get().value), own.items.size]).toEqual(["offline", 0.2, 1]);
  server.cut = false;
  await rest(4000);
  expect([keeper.get().state, blackOf(server.current.route), own.items.size]).toEqual(["saved", 0.2, 0]);
});

test("a window closed while the server was away finds its change again", async () => {
  const server = new FakeServer();
  const own = shelf();
  server.cut = true;
  const first = new RouteKeeper(server.current, server, own);
  first.change(withBlack(0.25));
  first.close();
  await rest(1);
  server.cut = false;
  const second = new RouteKeeper(server.current, server, own);
  expect(blackOf(second.get().value)).toBe(0.25);
  await rest();
  expect(blackOf(server.current.route)).toBe(0.25);
  expect(own.items.size).toBe(0);
});

describe("when somebody else changed the route", () => {
  const conflict = async () => {
    const server = new FakeServer();
    const keeper = new RouteKeeper(server.current, server, shelf());
    await server.save(1, withBlack(0.9));
    keeper.change(withBlack(0.1));
    await rest();
    expect(keeper.get()).toMatchObject({ state: "conflict", theirs: { version: 2 } });
    expect(blackOf(keeper.get().value)).toBe(0.1);
    expect(blackOf(server.current.route)).toBe(0.9);
    return { server, keeper };
  };

  test("keeping mine makes it the revision after theirs", async () => {
    const { server, keeper } = await conflict();
    await keeper.keepMine();
    expect([blackOf(server.current.route), server.current.version, keeper.get().state]).toEqual([
      0.1,
      3,
      "saved",
    ]);
  });

  test("taking theirs shows it", async () => {
    const { server, keeper } = await conflict();
    keeper.takeTheirs();
    expect([blackOf(keeper.get().value), keeper.get().state, server.current.version]).toEqual([
      0.9,
      "saved",
      2,
    ]);
  });

  test("nothing is sent until it is decided", async () => {
    const { server, keeper } = await conflict();
    keeper.change(withBlack(0.15));
    await rest(10000);
    expect([server.current.version, keeper.get().state]).toEqual([2, "conflict"]);
  });
});

describe("when somebody else changed something else", () => {
  const both = readRoute({ ...START, stages: [{ stage: "size", widthMm: 50 }, { stage: "tone" }] });
  const wide = (route: Route, mm: number) => withSettings(route, "size", { widthMm: mm });
  const dark = (route: Route, black: number) => withSettings(route, "tone", { black });
  const begun = () => {
    const server = new FakeServer();
    server.current = viewOf(both, 1);
    const own = shelf();
    return { server, own, keeper: new RouteKeeper(server.current, server, own) };
  };

  test("both are had, whoever saves first, and what came is told", async () => {
    const { server, keeper } = begun();
    const met: Route[][] = [];
    keeper.onMet((was, now) => void met.push([was, now]));
    await server.save(1, wide(both, 70));
    keeper.change(dark(both, 0.2));
    await rest(1000);
    expect(keeper.get()).toMatchObject({ state: "saved", theirs: null });
    expect(server.current.route).toEqual(dark(wide(both, 70), 0.2));
    expect(server.current.version).toBe(3);
    expect(met).toEqual([[both, wide(both, 70)]]);
  });

  test("heard of while nothing is unsaved here, it is shown", async () => {
    const { server, keeper } = begun();
    await server.save(1, wide(both, 70));
    await keeper.heard(2);
    expect(keeper.get()).toMatchObject({ state: "saved", value: wide(both, 70) });
    // What is known is not asked for again, and one's own saves are none of somebody else's.
    const get = jest.spyOn(server, "get");
    await keeper.heard(2);
    keeper.change(dark(keeper.get().value, 0.3));
    await rest();
    await keeper.heard(server.current.version);
    expect(get).not.toHaveBeenCalled();
  });

  test("heard of in the middle of a drag, the drag goes on, on what the other left", async () => {
    const { server, keeper } = begun();
    keeper.change(dark(both, 0.1));
    await server.save(1, wide(both, 70));
    await keeper.heard(2);
    expect(keeper.get().value).toEqual(dark(wide(both, 70), 0.1));
    keeper.change(dark(keeper.get().value, 0.4));
    await rest(1000);
    expect(server.current.route).toEqual(dark(wide(both, 70), 0.4));
    expect(keeper.get().state).toBe("saved");
  });

  test("the same setting is asked about, and nothing is lost", async () => {
    const { server, keeper } = begun();
    keeper.change(wide(both, 60));
    await server.save(1, wide(both, 70));
    await keeper.heard(2);
    expect(keeper.get()).toMatchObject({ state: "conflict", value: wide(both, 60), theirs: { version: 2 } });
    await keeper.keepMine();
    expect(server.current.route).toEqual(wide(both, 60));
  });

  test("what waited on the shelf while others went on is asked about: nobody knows what it began with", async () => {
    const { server, own } = begun();
    server.cut = true;
    const first = new RouteKeeper(server.current, server, own);
    first.change(dark(both, 0.2));
    first.close();
    await rest(1);
    server.cut = false;
    await server.save(1, wide(both, 70));
    const second = new RouteKeeper(server.current, server, own);
    await rest();
    expect(second.get()).toMatchObject({ state: "conflict", value: dark(both, 0.2) });
    expect(server.current.route).toEqual(wide(both, 70));
  });

  test("an undo on what somebody changed meanwhile shows that, and undoes nothing of it", async () => {
    const { server, keeper } = begun();
    await server.save(1, wide(both, 70));
    await keeper.undo();
    expect(keeper.get()).toMatchObject({ state: "saved", value: wide(both, 70) });
    expect(server.current.version).toBe(2);
  });

  test("an old revision is brought back once what is unsaved is saved", async () => {
    const { server, keeper } = begun();
    keeper.change(wide(both, 61));
    await keeper.bringBack(7);
    expect([server.saves, blackOf(keeper.get().value), keeper.get().state]).toEqual([1, 0.07, "saved"]);
  });

  test("signed out, it is kept, and sent once somebody is signed in", async () => {
    const { server, keeper } = begun();
    const plain = server.save;
    server.save = async () => {
      throw new Refusal({
        type: "about:blank",
        title: "Not signed in",
        status: 401,
        detail: "Sign in first.",
      });
    };
    keeper.change(wide(both, 62));
    await rest();
    expect([keeper.get().state, keeper.get().reason]).toEqual(["offline", null]);
    server.save = plain;
    await rest(4000);
    expect(server.current.route).toEqual(wide(both, 62));
  });
});

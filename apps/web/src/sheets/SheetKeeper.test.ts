import { type SheetView } from "@hardline/contract";
import { readSheetBody } from "@hardline/core/sheet/sheetFile";
import { Offline, Refusal } from "../api/client";
import { SheetKeeper, type SheetSave } from "./SheetKeeper";

const BODY = readSheetBody({ stock: { widthMm: 100, heightMm: 50 }, pieces: [{ routeId: "4", count: 3 }] });
const VIEW = { id: "2", name: "Tags", version: 1, body: BODY, placings: [] } as unknown as SheetView;
const NO_SHELF = { getItem: () => null, setItem: () => {}, removeItem: () => {} };

/** A server that keeps one sheet and refuses a change of another version. */
function server() {
  const state = { current: VIEW, cut: false, saves: [] as SheetSave[] };
  const put = async (save: SheetSave): Promise<SheetView> => {
    if (state.cut) throw new Offline();
    if (save.version !== state.current.version)
      throw new Refusal({
        ...{ type: "about:blank", title: "", status: 409, detail: "changed" },
        current: state.current,
      });
    state.saves.push(save);
    const { version, name, body, placings } = save;
    state.current = { ...state.current, name, body, placings, version: version + 1 } as SheetView;
    return state.current;
  };
  return { state, get: async () => state.current, put };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test("after a change elsewhere it asks, and then saves again without being opened anew", async () => {
  const { state, get, put } = server();
  const keeper = new SheetKeeper(VIEW, { get, put }, NO_SHELF);
  keeper.laidWith(new Map([["4", { revision: 7 }]]));
  state.current = { ...state.current, name: "Theirs", version: 5 } as SheetView;
  keeper.change({ ...keeper.get().value, name: "Mine" });
  await keeper.flush();
  expect([keeper.get().state, keeper.get().theirs?.name, state.saves.length]).toEqual([
    "conflict",
    "Theirs",
    0,
  ]);
  await keeper.keepMine();
  expect([keeper.get().state, state.current.name, state.current.version]).toEqual(["saved", "Mine", 6]);
  expect(state.saves[0].revisions).toEqual({ "4": 7 });
  keeper.change({ ...keeper.get().value, name: "Mine, later" });
  await keeper.flush();
  expect([keeper.get().state, state.current.name, state.current.version]).toEqual([
    "saved",
    "Mine, later",
    7,
  ]);
});

test("theirs is taken when it is chosen, and a change after it is saved on it", async () => {
  const { state, get, put } = server();
  const keeper = new SheetKeeper(VIEW, { get, put }, NO_SHELF);
  state.current = { ...state.current, name: "Theirs", version: 5 } as SheetView;
  keeper.change({ ...keeper.get().value, name: "Mine" });
  await keeper.flush();
  keeper.takeTheirs();
  expect([keeper.get().state, keeper.get().value.name]).toEqual(["saved", "Theirs"]);
  keeper.change({ ...keeper.get().value, name: "Theirs and mine" });
  await keeper.flush();
  expect([state.current.name, state.current.version]).toEqual(["Theirs and mine", 6]);
});

test("while the server is away a change is held, and saved when it is back", async () => {
  const { state, get, put } = server();
  const keeper = new SheetKeeper(VIEW, { get, put }, NO_SHELF);
  state.cut = true;
  keeper.change({ ...keeper.get().value, name: "Mine" });
  await keeper.flush();
  expect(keeper.get().state).toBe("offline");
  state.cut = false;
  await jest.advanceTimersByTimeAsync(5000);
  expect([keeper.get().state, state.current.name]).toEqual(["saved", "Mine"]);
});

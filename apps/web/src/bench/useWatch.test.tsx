/** @jest-environment jsdom */
import { type WatchView } from "@hardline/contract";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook } from "@testing-library/react";
import { type ReactNode } from "react";
import { type RouteKeeper } from "./RouteKeeper";
import { useWatch } from "./useWatch";

/** A stream that says what the test says. */
class Stream {
  static all: Stream[] = [];
  static readonly CLOSED = 2;
  readyState = 1;
  onmessage = (_: { data: string }): void => undefined;
  onerror = (): void => undefined;
  constructor(readonly url: string) {
    Stream.all.push(this);
  }
  close(): void {
    this.readyState = Stream.CLOSED;
  }
}
const VIEW: WatchView = {
  people: [{ id: "2", name: "Rowan Tate", routeId: "7" }],
  routes: [{ id: "7", version: 4, revision: 4, by: { id: "2", name: "Rowan Tate" } }],
  comments: 0,
};

function watching() {
  Stream.all = [];
  window.EventSource = Stream as unknown as typeof EventSource;
  const heard: number[] = [];
  const keeper = {
    heard: async (version: number) => void heard.push(version),
    onMet: () => () => undefined,
  } as unknown as RouteKeeper;
  const queries = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  );
  return { heard, ...renderHook(() => useWatch("1", "7", keeper), { wrapper }) };
}
beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test("who is there is told, and the keeper hears of each version", () => {
  const { result, heard } = watching();
  expect(Stream.all.map((s) => s.url)).toEqual(["/api/tickets/1/watch?route=7"]);
  act(() => Stream.all[0].onmessage({ data: JSON.stringify(VIEW) }));
  expect(result.current).toEqual(VIEW);
  expect(heard).toEqual([4]);
});

test("a stream that was refused is asked for again, one whose line broke is the browser's affair, and a page that is left has none", () => {
  const { unmount } = watching();
  Stream.all[0].onerror();
  jest.advanceTimersByTime(10000);
  expect(Stream.all).toHaveLength(1);
  Stream.all[0].readyState = Stream.CLOSED;
  Stream.all[0].onerror();
  jest.advanceTimersByTime(3500);
  expect(Stream.all).toHaveLength(2);
  Stream.all[1].readyState = Stream.CLOSED;
  Stream.all[1].onerror();
  unmount();
  jest.advanceTimersByTime(10000);
  expect(Stream.all).toHaveLength(2);
});

/** @jest-environment jsdom */
import { QueryClient } from "@tanstack/react-query";
import { renderHook } from "@testing-library/react";
import { useChanges } from "./useChanges";

/** A stream that says what the test says. */
class Stream {
  static all: Stream[] = [];
  static readonly OPEN = 1;
  static readonly CLOSED = 2;
  readyState = 0;
  onopen = (): void => undefined;
  onerror = (): void => undefined;
  onmessage = (_: { data: string }): void => undefined;
  constructor(readonly url: string) {
    Stream.all.push(this);
  }
  close(): void {
    this.readyState = Stream.CLOSED;
  }
  opens(): void {
    this.readyState = Stream.OPEN;
    this.onopen();
  }
  says(...lists: string[]): void {
    this.onmessage({ data: JSON.stringify({ lists }) });
  }
}

let asked: string[];
let hidden = false;
beforeEach(() => {
  jest.useFakeTimers();
  Stream.all = [];
  hidden = false;
  window.EventSource = Stream as unknown as typeof EventSource;
  Object.defineProperty(document, "hidden", { configurable: true, get: () => hidden });
});
afterEach(() => jest.useRealTimers());

function listening() {
  const queries = new QueryClient();
  asked = [];
  jest.spyOn(queries, "invalidateQueries").mockImplementation(async (filters) => {
    asked.push(String(filters!.queryKey![0]));
  });
  return renderHook(() => useChanges(queries));
}
const turned = (away: boolean) => {
  hidden = away;
  document.dispatchEvent(new Event("visibilitychange"));
};

test("what changed is asked for anew, and nothing else", () => {
  listening();
  const [stream] = Stream.all;
  expect(stream.url).toBe("/api/changes");
  stream.opens();
  expect(asked).toEqual([]);
  stream.says("runs", "materials");
  expect(asked).toEqual(["runs", "materials", "curves"]);
});

test("after the connection was lost everything is asked for anew, as it may have changed meanwhile", () => {
  listening();
  const [stream] = Stream.all;
  stream.opens();
  stream.onerror();
  stream.opens();
  expect(new Set(asked).size).toBe(15);
});

test("while nothing is heard, lists are asked for every five seconds, and a closed stream is opened again", () => {
  listening();
  jest.advanceTimersByTime(10000);
  expect(asked.filter((key) => key === "tickets")).toHaveLength(2);
  expect(Stream.all).toHaveLength(1); // it tries by itself
  Stream.all[0].close();
  jest.advanceTimersByTime(5000);
  expect(Stream.all).toHaveLength(2);
  Stream.all[1].opens();
  asked.length = 0;
  jest.advanceTimersByTime(60000);
  expect(asked).toEqual([]);
});

test("a page that is not seen holds no stream; seen again, it asks for what it missed", () => {
  const { unmount } = listening();
  Stream.all[0].opens();
  turned(true);
  expect(Stream.all[0].readyState).toBe(Stream.CLOSED);
  jest.advanceTimersByTime(60000);
  expect([asked, Stream.all.length]).toEqual([[], 1]);
  turned(false);
  Stream.all[1].opens();
  expect(asked).toContain("tickets");
  unmount();
  expect(Stream.all[1].readyState).toBe(Stream.CLOSED);
});

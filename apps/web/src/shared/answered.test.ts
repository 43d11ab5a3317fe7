import { answered } from "./answered";
import { tellFault } from "./tell";

jest.mock("./tell", () => ({ tellFault: jest.fn() }));
const told = jest.mocked(tellFault);
beforeEach(() => told.mockClear());

const named = (name: string) => Object.assign(new Error("why"), { name });

test("an answer is given on, and one that was stopped is none and is not told", async () => {
  expect(await answered(Promise.resolve(4), "Not done")).toBe(4);
  expect(await answered(undefined, "Not done")).toBeNull();
  expect(await answered(Promise.reject(named("AbortError")), "Not done")).toBeNull();
  expect(told).not.toHaveBeenCalled();
});

test("any other fault is told", async () => {
  const fault = named("RangeError");
  expect(await answered(Promise.reject(fault), "Not done")).toBeNull();
  expect(told).toHaveBeenCalledWith("Not done", fault);
});

import { paramsOf, viewIn } from "./boardView";

test("a view goes into the address and comes back; what is as usual is left out", () => {
  const usual = viewIn(new URLSearchParams());
  expect(usual).toEqual({ filter: "all", sort: "due", search: "" });
  expect(paramsOf(usual).toString()).toBe("");
  const view = { filter: "to look at", sort: "number", search: "tag & co" } as const;
  expect(viewIn(new URLSearchParams(paramsOf(view).toString()))).toEqual(view);
});

test("nonsense in an address is as usual", () => {
  expect(viewIn(new URLSearchParams("state=lost&order=up"))).toEqual({
    filter: "all",
    sort: "due",
    search: "",
  });
});

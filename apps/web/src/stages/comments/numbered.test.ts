import { type CommentView } from "@hardline/contract";
import { numbered } from "./numbered";

const comment = (id: string, more: Partial<CommentView> = {}): CommentView => ({
  ...{ id, text: id, by: { id: "1", name: "Ida" }, at: "", routeId: "7", place: [0.5, 0.5], done: null },
  own: true,
  ...more,
});
const done = { by: { id: "2", name: "Bo" }, at: "" };

test("open ones come first, and those with a place here are numbered in their order", () => {
  const all = [
    comment("seen", { done }),
    comment("a"),
    comment("without a place", { place: null }),
    comment("of another route", { routeId: "8" }),
    comment("of any route", { routeId: null }),
  ];
  expect(numbered(all, "7").map(({ comment: c, number }) => [c.id, number])).toEqual([
    ["a", 1],
    ["without a place", null],
    ["of another route", null],
    ["of any route", 2],
    ["seen", null],
  ]);
});

/** @jest-environment jsdom */
import { type Check } from "@hardline/core/inspect/check";
import { USUAL_LIMITS } from "@hardline/core/inspect/limits";
import { readRoute } from "@hardline/core/route/route";
import { screen } from "@testing-library/react";
import { type Inspected } from "../../engine/protocol";
import { shown } from "../../testing/page";
import { ReadingsColumn } from "./ReadingsColumn";

const route = readRoute({ format: "hard-line-route", version: 1, name: "A", stages: [] });
const check = (id: string, level: Check["level"], text: string, more: object = {}) =>
  ({
    ...{ id, level, text, value: 0, limit: 0, places: [], stage: "size" },
    ...more,
  }) as unknown as Inspected["checks"][number];

function column(checks: Inspected["checks"], places: Check | null = null) {
  const told: unknown[] = [];
  const found = { ...{ key: "k", stages: [], checks, fingerprint: null, thumbnail: null } } as Inspected;
  const { user } = shown(
    <ReadingsColumn
      inspected={{ of: route, found }}
      stale={false}
      finish={null}
      limits={USUAL_LIMITS}
      stages={["size", "blackWhite"]}
      places={places}
      setPlaces={(c) => told.push(["places", c?.id])}
      fly={() => undefined}
      pieces={1}
      handOver={() => told.push("hand over")}
      setLimits={(limits) => told.push(limits)}
      repair={(stage, change) => told.push([stage, change])}
    />,
  );
  return { told, user };
}

test("what stops the job stands first, then what is to be looked at, then what is fine", () => {
  column([
    check("a", "fine", "The size is right."),
    check("b", "look", "The source is a little soft."),
    check("c", "stop", "Nothing is marked."),
  ]);
  const text = document.body.textContent!;
  const at = ["Nothing is marked", "a little soft", "size is right"].map((words) => text.indexOf(words));
  expect(at.every((k) => k >= 0)).toBe(true);
  expect(at).toEqual(at.toSorted((a, b) => a - b));
});

test("limits of the route's own stages can be set, others are not asked for", async () => {
  const { told, user } = column([]);
  const field = screen.getByRole("textbox", { name: /Smallest dot the process marks/ });
  await user.clear(field);
  await user.type(field, "0.2");
  await user.tab();
  expect(told).toContainEqual({ ...USUAL_LIMITS, dotMm: 0.2 });
  expect(screen.queryByRole("textbox", { name: /Thinnest neck/ })).toBeNull();
});

test("files are handed over from here", async () => {
  const { told, user } = column([]);
  await user.click(screen.getByRole("button", { name: "Hand over files" }));
  expect(told).toEqual(["hand over"]);
});

test("what lies at several places is mended at all of them, or at the one that is gone to", async () => {
  const place = (xMm: number) => ({ xMm, yMm: 2, widthMm: 1, heightMm: 1 });
  const lost = {
    ...check("lost", "look", "3 parts of the art taken"),
    places: [place(1), place(5), place(9)],
    repair: { label: "Bring them back", change: { ops: "all" } },
    repairOne: { label: "Bring back", changes: [{ ops: 1 }, { ops: 2 }] },
  };
  const { told, user } = column([lost], lost);
  const press = (name: string) => user.click(screen.getByRole("button", { name }));
  await press("Bring them back");
  await press("Bring back 1");
  await press("Go to place 2");
  expect(screen.getByRole("button", { name: "Go to place 2" }).getAttribute("aria-pressed")).toBe("true");
  await press("Bring back 2");
  const changes = told.filter((t) => Array.isArray(t) && t[0] === lost.stage).map((t) => (t as unknown[])[1]);
  expect(changes).toEqual([{ ops: "all" }, { ops: 1 }, { ops: 2 }]);
  await press("Go to place 3"); // of so many only the first are mended one by one
  expect(screen.queryByRole("button", { name: /Bring back 3/ })).toBeNull();
});

import { type Appearance } from "@hardline/core/appearance/onMaterial";
import { readRoute } from "@hardline/core/route/route";
import { panesFor, type Wanted } from "./panes";

const appearance: Appearance = {
  ...{ bareColour: "#d8c9ae", markColour: "#3a2a1c", grain: "none", grainStrength: 0, spreadMm: 0 },
};
const wanted: Wanted = {
  seen: {
    part: { x: 10, y: 20, width: 100, height: 50 },
    on: { x: 0, y: 0, width: 200, height: 100 },
  },
  ratio: 1.5,
  ...{ before: "tone", after: "blackWhite", wiped: false, material: null, beside: null },
  ...{ backing: 0xffffff, way: null, hidden: ["White"], view: (stage) => `as ${stage} shows it` },
};

test("one picture is asked for, at the screen's own pixels", () => {
  expect(panesFor(wanted)).toEqual([
    {
      ...{ stage: "blackWhite", part: wanted.seen.part, width: 300, height: 150, base: 0xffffff },
      ...{ hidden: ["White"], view: "as blackWhite shows it", appearance: undefined },
    },
  ]);
});

test("left of the wipe is the stage before; the same stage on both sides is asked for once", () => {
  const stages = (more: Partial<Wanted>) => panesFor({ ...wanted, wiped: true, ...more }).map((p) => p.stage);
  expect(stages({})).toEqual(["blackWhite", "tone"]);
  expect(stages({ before: "blackWhite" })).toEqual(["blackWhite"]);
});

test("on a material the wipe's other side is the bare dots of the same stage", () => {
  const panes = panesFor({ ...wanted, wiped: true, material: { name: "slate", appearance } });
  expect(panes.map((p) => [p.stage, p.appearance])).toEqual([
    ["blackWhite", appearance],
    ["blackWhite", undefined],
  ]);
});

test("a route beside it is seen at the same place, on its own backing and material, as its stage gives it", () => {
  const route = readRoute({ format: "hard-line-route", version: 1, name: "B", stages: [] });
  const beside = { route, material: { name: "slate", appearance }, backing: 0x222222 };
  const [own, other] = panesFor({ ...wanted, beside });
  expect(own.beside).toBeUndefined();
  expect(other).toMatchObject({ beside: true, appearance, base: 0x222222, part: wanted.seen.part });
  expect(other.view).toBeUndefined();
});

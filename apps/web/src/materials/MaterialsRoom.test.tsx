/** @jest-environment jsdom */
import { type MaterialView } from "@hardline/contract";
import { USUAL_MATERIALS } from "@hardline/core/material/usual";
import { screen, within } from "@testing-library/react";
import { serverOf, shown } from "../testing/page";
import { MaterialsRoom } from "./MaterialsRoom";

const known: MaterialView = { ...USUAL_MATERIALS[0], curve: null, version: 3, inUse: 2 };
const { key, name } = known;
const material = () => screen.findByRole("button", { name });
const dialog = () => within(screen.getByRole("dialog"));

test("a material's number is changed and saved on the version that was seen", async () => {
  const asked = serverOf({
    "GET /api/materials": [known],
    [`PUT /api/materials/${key}`]: { ...known, version: 4 },
  });
  const { user } = shown(<MaterialsRoom />);
  await user.click(await material());
  const field = dialog().getByRole("textbox", { name: /Smallest mark/ });
  await user.clear(field);
  await user.type(field, "0.15");
  await user.tab();
  await user.click(dialog().getByRole("button", { name: "Save" }));
  const saved = asked.find((a) => a.what.startsWith("PUT"))!;
  expect(saved.body).toMatchObject({ dotMm: 0.15, gapMm: known.gapMm, version: 3 });
});

test("what a number may not be is told at its field, and what was stays", async () => {
  serverOf({ "GET /api/materials": [known] });
  const { user } = shown(<MaterialsRoom />);
  await user.click(await material());
  const field = dialog().getByRole<HTMLInputElement>("textbox", { name: /Dots per inch/ });
  await user.clear(field);
  await user.type(field, "99999");
  await user.tab();
  expect(dialog().getByRole("alert").textContent).toMatch(/4800/);
  expect(field.value).toBe(`${known.dotsPerInch} dots/in`);
});

test("a material that somebody changed meanwhile is not overwritten, and that is told", async () => {
  serverOf({
    "GET /api/materials": [known],
    [`PUT /api/materials/${key}`]: {
      status: 409,
      title: "",
      type: "",
      detail: "Somebody changed it meanwhile.",
    },
  });
  const { user } = shown(<MaterialsRoom />);
  await user.click(await material());
  await user.click(dialog().getByRole("button", { name: "Save" }));
  expect(await screen.findByText("Somebody changed it meanwhile.")).toBeTruthy();
  expect(screen.getByRole("dialog")).toBeTruthy();
});

test("a new one needs a name", async () => {
  const asked = serverOf({ "GET /api/materials": [known], "POST /api/materials": known });
  const { user } = shown(<MaterialsRoom />);
  await user.click(await screen.findByRole("button", { name: "New material" }));
  await user.click(dialog().getByRole("button", { name: "Save" }));
  expect(await screen.findByText("A material needs a name")).toBeTruthy();
  await user.type(dialog().getByRole("textbox", { name: "Name" }), "Larch");
  await user.click(dialog().getByRole("button", { name: "Save" }));
  expect(asked.find((a) => a.what === "POST /api/materials")!.body).toMatchObject({ name: "Larch" });
});

test("materials that cannot be had are told, with a way to ask again", async () => {
  serverOf({ "GET /api/materials": { status: 500, title: "", type: "", detail: "The database is away." } });
  shown(<MaterialsRoom />);
  expect(await screen.findByText(/The materials cannot be shown/)).toBeTruthy();
});

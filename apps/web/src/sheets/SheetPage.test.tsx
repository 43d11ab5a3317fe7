/** @jest-environment jsdom */
import { type SheetView } from "@hardline/contract";
import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { readSheetBody } from "@hardline/core/sheet/sheetFile";
import { act, screen, waitFor, within } from "@testing-library/react";
import { Route as At, Routes } from "react-router";
import { useUnit } from "../shared/unit";
import { serverOf, shown } from "../testing/page";
import { SheetPage } from "./SheetPage";
import { SheetsRoom } from "./SheetsRoom";

const placing = (xMm: number, sheet = 0) => ({
  piece: 0,
  sheet,
  xMm,
  yMm: 30,
  turnDegrees: 0,
  mirrored: false,
});
const laidOut: SheetView = {
  ...{ id: "4", name: "Tags, birch", version: 3, placed: 3, sheets: 2, revisions: { "9": 2 } },
  body: readSheetBody({
    stock: { widthMm: 600, heightMm: 300 },
    pieces: [{ routeId: "9", count: 5 }],
    machine: USUAL_MACHINES[0].key,
  }),
  placings: [placing(40), placing(120), placing(40, 1)],
  pieces: [
    {
      ...{ routeId: "9", ticketId: "7", ticket: 1007, piece: "Tag for the gate", material: "Birch" },
      ...{ route: "Engraved", revision: 2, wanted: 5 },
    },
  ],
  checks: [],
  createdAt: "",
};
const outline = [0, 0, 60, 0, 60, 40, 0, 40];
const piece = {
  ...{ id: "1", state: "done", progress: 1, doing: "", error: null, revision: 2, zipUrl: null },
  files: [{ url: "/api/files/p.png" }],
  outcome: {
    ...{
      name: "Tag",
      outline,
      box: { x: 0, y: 0, width: 60, height: 40 },
      dotsPerInch: null,
      printed: false,
    },
    ...{ pictureUrl: "", picture: { xMm: 0, yMm: 0, widthMm: 60, heightMm: 40 } },
  },
};

/** The page of that sheet, and a server that keeps what it is sent. */
function page(more: Parameters<typeof serverOf>[0] = {}) {
  localStorage.clear();
  act(() => useUnit.setState({ unit: "mm" }));
  const asked = serverOf({
    "GET /api/sheets/4": laidOut,
    "GET /api/sheets": [laidOut, { ...laidOut, id: "5", name: "Empty", placed: 0, sheets: 0 }],
    "GET /api/tickets?find=Birch": { tickets: [], next: null },
    "GET /api/machines": [
      { machine: USUAL_MACHINES[0], version: 1, host: "127.0.0.1", port: 4321, floor: null, queue: [] },
    ],
    "POST /api/routes/9/piece?bleedMm=0": piece,
    ...more,
  });
  const routes = (
    <Routes>
      <At path="/sheets" element={<SheetsRoom />} />
      <At path="/sheets/:sheetId" element={<SheetPage />} />
      <At path="/runs/:runId" element={<h1>The run</h1>} />
    </Routes>
  );
  return { asked, ...shown(routes, "/sheets/4") };
}

test("what lies on a sheet, what is left, and the sheets one by one", async () => {
  const { user } = page();
  const tabs = within(await screen.findByRole("tablist", { name: "Sheets" }));
  expect(tabs.getAllByRole("tab").map((t) => t.textContent)).toEqual(["Sheet 1 2", "Sheet 2 1"]);
  expect(screen.getByText("3 of 5")).toBeTruthy();
  await user.click(tabs.getByRole("tab", { name: /^Sheet 2/ }));
  expect(screen.getByRole("button", { name: "Run sheet 2" })).toBeTruthy();
});

test("lengths follow the unit, and are saved in millimetres with the version they were seen at", async () => {
  const { user, asked } = page({
    "PUT /api/sheets/4": (body) => ({ ...laidOut, ...(body as object), version: 4 }),
  });
  const field = await screen.findByLabelText<HTMLInputElement>("Stock, across");
  act(() => useUnit.setState({ unit: "in" }));
  await waitFor(() => expect(field.value).toMatch(/^23\.62/));
  await user.clear(field);
  await user.type(field, "24{Enter}");
  await waitFor(() => expect(asked.some((a) => a.what === "PUT /api/sheets/4")).toBe(true), {
    timeout: 4000,
  });
  const sent = asked.find((a) => a.what === "PUT /api/sheets/4")!.body as {
    version: number;
    body: SheetView["body"];
  };
  expect(sent.version).toBe(3);
  expect(sent.body.stock.widthMm).toBeCloseTo(609.6, 9);
});

test("a sheet is run as the server has it: what is unsaved goes first, and what cannot be saved is not run", async () => {
  const refused = { type: "", title: "", status: 500, detail: "The disk is full." };
  const { user, asked } = page({ "PUT /api/sheets/4": refused, "POST /api/runs": { id: "12" } });
  await user.click(await screen.findByRole("button", { name: "Run sheet 1" }));
  expect(await screen.findByRole("heading", { name: "The run" })).toBeTruthy();
  expect(asked.find((a) => a.what === "POST /api/runs")!.body).toMatchObject({ sheetId: "4", sheet: 1 });
});

test("a change that cannot be saved keeps the sheet from being run", async () => {
  const refused = { type: "", title: "", status: 500, detail: "The disk is full." };
  const { user, asked } = page({ "PUT /api/sheets/4": refused, "POST /api/runs": { id: "12" } });
  const field = await screen.findByLabelText("Stock, across");
  await user.clear(field);
  await user.type(field, "500{Enter}");
  await user.click(screen.getByRole("button", { name: "Run sheet 1" }));
  expect(await screen.findByText(/The server does not have it as it is here/)).toBeTruthy();
  expect(asked.some((a) => a.what === "POST /api/runs")).toBe(false);
});

test("all sheets: one that lies arranged does not say that it does not", async () => {
  serverOf({ "GET /api/sheets": [laidOut, { ...laidOut, id: "5", name: "Empty", placed: 0, sheets: 0 }] });
  shown(<SheetsRoom />);
  const row = async (name: RegExp) => (await screen.findByRole("row", { name })).textContent;
  expect(await row(/Tags, birch/)).not.toContain("not arranged");
  expect(await row(/Empty/)).toContain("not arranged");
});

/** @jest-environment jsdom */
import { type BatchItemView, type BatchView } from "@hardline/contract";
import { screen, within } from "@testing-library/react";
import { serverOf, shown } from "../testing/page";
import { BatchesRoom } from "./BatchesRoom";

const counts = { done: 0, running: 0, failed: 0, stopped: 0, waiting: 0 };
const batch = (id: string, more: Partial<BatchView["counts"]>): BatchView => ({
  ...{ id, name: `Batch ${id}`, route: "Tag, engraved", stopped: false, seconds: null, createdAt: "" },
  counts: { ...counts, ...more },
});
const item = (id: string, more: Partial<BatchItemView>): BatchItemView => ({
  ...{ id, name: `piece-${id}.png`, state: "done", progress: 1, error: null, attempts: 1 },
  ...{ files: 3, zipUrl: null, ...more },
});
const itemsPath = (id: string) => `GET /api/batches/${id}/items`;
const row = (name: RegExp) => screen.getByRole("row", { name });

test("the newest batch is open: how far it is, what became of each picture, and why one failed", async () => {
  serverOf({
    "GET /api/batches": [batch("2", { done: 3, failed: 1 }), batch("1", { done: 5 })],
    [itemsPath("2")]: [
      item("7", { zipUrl: "/api/renders/7/zip" }),
      item("8", { state: "failed", error: "The picture is no picture.", files: 0 }),
      item("9", { state: "running", progress: 0.42, files: 0 }),
    ],
  });
  shown(<BatchesRoom />);
  const link = await screen.findByRole("link", { name: "piece-7.png" });
  expect(link.getAttribute("href")).toBe("/api/renders/7/zip");
  expect(screen.getByRole("img", { name: "3 of 4 done" })).toBeTruthy();
  expect(within(row(/piece-8/)).getByText("The picture is no picture.")).toBeTruthy();
  expect(within(row(/piece-9/)).getByText("42 %")).toBeTruthy();
});

test("a batch can be told what it can be told now, and nothing else", async () => {
  const asked = serverOf({
    "GET /api/batches": [batch("1", { done: 1, waiting: 4 })],
    [itemsPath("1")]: [],
    "POST /api/batches/1/stop": batch("1", { done: 1, stopped: 4 }),
  });
  const { user } = shown(<BatchesRoom />);
  await user.click(await screen.findByRole("button", { name: "Stop" }));
  expect(asked.map((a) => a.what)).toContain("POST /api/batches/1/stop");
  expect(screen.queryByRole("button", { name: "Go on" })).toBeNull();
  expect(screen.queryByRole("button", { name: "Try the failed again" })).toBeNull();
});

test("what the server refuses is told, and the other batch can still be opened", async () => {
  serverOf({
    "GET /api/batches": [batch("2", { stopped: 2 }), batch("1", { done: 5 })],
    [itemsPath("2")]: [],
    [itemsPath("1")]: [item("3", {})],
    "POST /api/batches/2/resume": { status: 409, title: "", type: "", detail: "It was put away meanwhile." },
  });
  const { user } = shown(<BatchesRoom />);
  await user.click(await screen.findByRole("button", { name: "Go on" }));
  expect(await screen.findByText("It was put away meanwhile.")).toBeTruthy();
  await user.click(screen.getByRole("button", { name: "Batch 1" }));
  expect(await screen.findByText("piece-3.png")).toBeTruthy();
});

test("while the batches cannot be had that is said, also while they are asked for again", async () => {
  const state = { broken: true };
  const answer = () =>
    state.broken
      ? { status: 500, title: "", type: "", detail: "The database is away." }
      : [batch("1", { done: 1 })];
  const asked = serverOf({ "GET /api/batches": answer, [itemsPath("1")]: [] });
  const { user } = shown(<BatchesRoom />);
  const alert = await screen.findByRole("alert");
  expect(alert.textContent).toContain("The batches cannot be shown: The database is away.");
  const before = asked.length;
  await user.click(screen.getByRole("button", { name: "Try again" }));
  expect(asked.length).toBeGreaterThan(before);
  expect(screen.getByRole("alert").textContent).toContain("The database is away.");
  state.broken = false;
  await user.click(screen.getByRole("button", { name: "Try again" }));
  expect(await screen.findByRole("button", { name: "Batch 1" })).toBeTruthy();
  expect(screen.queryByRole("alert")).toBeNull();
});

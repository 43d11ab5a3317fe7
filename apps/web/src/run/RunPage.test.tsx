/** @jest-environment jsdom */
import { type MachineView, type RunView } from "@hardline/contract";
import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { screen, waitFor, within } from "@testing-library/react";
import { Route as At, Routes } from "react-router";
import { serverOf, shown } from "../testing/page";
import { RunPage } from "./RunPage";

const [laser] = USUAL_MACHINES;
const machine: MachineView = {
  ...{ machine: laser, version: 1, host: "127.0.0.1", port: 4321, floor: null, queue: [] },
};
const ready = {
  ...{ id: "5", machine: laser.key, name: "1007 Tag for the gate", ticketId: "7", routeId: null },
  ...{ revision: 2, sheetId: null, sheet: null, state: "ready", progress: 1, executed: 0, seconds: null },
  ...{ error: null, made: null, camera: null, burnedUrl: null, programUrl: "/api/files/ab" },
  ...{ startedAt: null, endedAt: null, createdAt: "" },
  wish: { bothWays: true, power: 60, mmPerS: null, at: null },
  plan: {
    ...{
      seconds: 600,
      travels: { x: 0, y: 0, width: 80, height: 40 },
      at: [10, 20],
      widthMm: 60,
      heightMm: 40,
    },
    passes: [{ name: "Rows", use: "bitmap", lines: [0, 1000], seconds: 600, rows: 400 }],
    ...{ cornersSeconds: 0, savedMm: 0, lines: 1000, sha256: "0123456789abcdef", bytes: 9000 },
    ...{ mediaType: "text/x.gcode", bitmap: null, marks: 0 },
  },
} as unknown as RunView;

/** The page of a run as the server has it, and a server that takes what it is told. */
function page(run: RunView, more: Parameters<typeof serverOf>[0] = {}) {
  const asked = serverOf({
    "GET /api/runs/5": run,
    "GET /api/machines": [machine],
    "GET /api/materials": [],
    ...more,
  });
  const routes = (
    <Routes>
      <At path="/runs/:runId" element={<RunPage />} />
    </Routes>
  );
  return { asked, ...shown(routes, "/runs/5") };
}

test("a run that is planned says its time, its passes and its program, and is sent once", async () => {
  const { user, asked } = page(ready, { "POST /api/runs/5/queue": { ...ready, state: "queued" } });
  expect(await screen.findByText("400 rows")).toBeTruthy();
  expect(screen.getByRole("link", { name: "The very bytes that are sent" }).getAttribute("href")).toBe(
    "/api/files/ab",
  );
  await user.click(screen.getByRole("button", { name: "Send to the machine" }));
  await waitFor(() => expect(screen.queryByRole("button", { name: "Send to the machine" })).toBeNull());
  expect(asked.filter((a) => a.what === "POST /api/runs/5/queue")).toHaveLength(1);
  expect(screen.getByText(/Waits for the machine/)).toBeTruthy();
});

test("the space bar plays and stands still; on a button that was come to by Tab it presses that button alone", async () => {
  const running = { ...ready, state: "running", executed: 250 } as RunView;
  const { user, asked } = page(running, { "POST /api/runs/5/pause": { ...running, state: "pausing" } });
  const play = within(await screen.findByRole("group", { name: "Play the run" }));
  await user.keyboard(" ");
  expect(play.getByRole("button", { name: "Stand still" })).toBeTruthy();
  await user.keyboard(" ");
  expect(play.getByRole("button", { name: "Play" })).toBeTruthy();
  const pause = screen.getByRole("button", { name: "Pause" });
  for (let k = 0; k < 40 && document.activeElement !== pause; k++) await user.tab();
  expect(document.activeElement).toBe(pause);
  await user.keyboard(" ");
  await waitFor(() => expect(asked.map((a) => a.what)).toContain("POST /api/runs/5/pause"));
  expect(play.getByRole("button", { name: "Play" })).toBeTruthy();
});

test("how far a machine is, and how long it still takes, by its own lines", async () => {
  page({ ...ready, state: "running", executed: 250 } as RunView);
  expect(await screen.findByText(/Line 250 of 1000, 7 min 30 s left/)).toBeTruthy();
});

test("a refusal is told and the run stays as it is; a run that is not there says so", async () => {
  const refusal = { type: "", title: "", status: 409, detail: "Another run is at work." };
  const { user } = page(ready, { "POST /api/runs/5/queue": refusal });
  await user.click(await screen.findByRole("button", { name: "Send to the machine" }));
  expect(await screen.findByText("Another run is at work.")).toBeTruthy();
  expect(screen.getByRole("button", { name: "Send to the machine" })).toBeTruthy();
});

test("a run that cannot be had says why", async () => {
  page(ready, { "GET /api/runs/5": { type: "", title: "", status: 404, detail: "There is no run 5." } });
  expect(await screen.findByText(/There is no run 5/)).toBeTruthy();
});

test("another way of running is planned anew, with what was set", async () => {
  const { user, asked } = page(ready, { "POST /api/runs": { ...ready, id: "6" } });
  const field = await screen.findByLabelText("Power of dots");
  await user.clear(field);
  await user.type(field, "45{Enter}");
  await user.click(screen.getByRole("button", { name: /anew/ }));
  const sent = asked.find((a) => a.what === "POST /api/runs")!.body as { wish: { power: number } };
  expect(sent.wish.power).toBe(45);
});

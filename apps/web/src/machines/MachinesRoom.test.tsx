/** @jest-environment jsdom */
import { type MachineView, type RunView } from "@hardline/contract";
import { USUAL_MACHINES } from "@hardline/core/machine/machine";
import { screen, within } from "@testing-library/react";
import { serverOf, shown } from "../testing/page";
import { MachinesRoom } from "./MachinesRoom";

const run = (id: string, more: object): RunView =>
  ({
    ...{
      id,
      name: `Run ${id}`,
      machine: "Bed laser",
      state: "queued",
      executed: 0,
      seconds: null,
      made: null,
    },
    plan: { seconds: 600, lines: 1000, sha256: "0123456789abcdef" },
    ...more,
  }) as unknown as RunView;
const machine = (k: number, queue: RunView[]): MachineView => ({
  ...{ machine: USUAL_MACHINES[k], version: 1, host: "127.0.0.1", port: 4300 + k, floor: null, queue },
});
const [laser] = USUAL_MACHINES;

test("each machine says what it is doing and what waits, in its order", async () => {
  serverOf({
    "GET /api/machines": [
      machine(0, [run("1", { state: "running", executed: 250 }), run("2", {}), run("3", {})]),
      machine(1, []),
    ],
    "GET /api/runs": [],
  });
  shown(<MachinesRoom />);
  const card = within(await screen.findByRole("region", { name: laser.name }));
  const rows = card.getAllByRole("listitem").map((row) => row.textContent);
  expect(rows[0]).toMatch(/Run 1.*25 %, 7 min 30 s left|Run 1.*25 %/);
  expect(rows[1]).toContain("Run 2");
  expect(
    within(screen.getByRole("region", { name: USUAL_MACHINES[1].name })).getByText("Nothing waits"),
  ).toBeTruthy();
});

test("what waits can go before what waits, never before what is at work", async () => {
  const asked = serverOf({
    "GET /api/machines": [machine(0, [run("1", { state: "running" }), run("2", {}), run("3", {})])],
    "GET /api/runs": [],
    "POST /api/runs/3/place": machine(0, []),
  });
  const { user } = shown(<MachinesRoom />);
  const earlier = await screen.findAllByRole("button", { name: "Earlier" });
  expect(earlier).toHaveLength(1);
  await user.click(earlier[0]);
  expect(asked).toContainEqual({ what: "POST /api/runs/3/place", body: { before: "2" } });
});

test("an order that was refused is told, and so is a server that fails", async () => {
  serverOf({
    "GET /api/machines": [machine(0, [run("2", {}), run("3", {})])],
    "GET /api/runs": { status: 500, title: "", type: "", detail: "The database is away." },
    "POST /api/runs/3/place": { status: 409, title: "", type: "", detail: "It is at work meanwhile." },
  });
  const { user } = shown(<MachinesRoom />);
  await user.click(await screen.findByRole("button", { name: "Earlier" }));
  expect(await screen.findByText("It is at work meanwhile.")).toBeTruthy();
  expect(await screen.findByText(/The runs that have ended cannot be shown/)).toBeTruthy();
});

test("runs that have ended say what they came to; others are not among them", async () => {
  serverOf({
    "GET /api/machines": [],
    "GET /api/runs": [
      run("1", { state: "done", seconds: 612, made: { equal: true, twice: 0 } }),
      run("2", { state: "done", seconds: 612, made: { equal: false, twice: 3 } }),
      run("3", { state: "stopped" }),
      run("4", { state: "running" }),
    ],
  });
  shown(<MachinesRoom />);
  expect((await screen.findByRole("row", { name: /Run 1/ })).textContent).toContain("done, dot for dot");
  expect(screen.getByRole("row", { name: /Run 2/ }).textContent).toContain("done, not the bitmap");
  expect(screen.getByRole("row", { name: /Run 3/ }).textContent).toContain("stopped");
  expect(screen.queryByRole("row", { name: /Run 4/ })).toBeNull();
});

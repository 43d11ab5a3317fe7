/** @jest-environment jsdom */
import { RUN_STATES, type RunState, type RunView } from "@hardline/contract";
import { cleanup, screen } from "@testing-library/react";
import { type RunAct } from "../api/machines";
import { shown } from "../testing/page";
import { RunButtons } from "./RunButtons";
import { isEnded, isLive } from "./states";

function buttons(state: RunState, error: string | null = null) {
  const acts: RunAct[] = [];
  const run = { state, error } as RunView;
  const { user } = shown(<RunButtons run={run} act={(what) => () => acts.push(what)} />);
  const names = screen.queryAllByRole("button").map((b) => b.textContent!);
  return { names, user, acts };
}

test.each(RUN_STATES.map((state) => [state]))(
  "%s: what moves can be stopped, and what has ended cannot",
  (state) => {
    const { names } = buttons(state);
    const mayMove = ["running", "pausing", "paused", "stopping"].includes(state);
    expect(names.some((name) => /^Stop/.test(name))).toBe(mayMove);
    if (isEnded({ state })) expect(names).toEqual([]);
    else expect(names.length + Number(state === "preparing")).toBeGreaterThan(0);
    // Only what somebody looked at is sent, and only once.
    expect(names.includes("Send to the machine")).toBe(state === "ready");
    expect(names.includes("Pause")).toBe(state === "running");
    expect(isLive({ state }) && isEnded({ state })).toBe(false);
  },
);

test("each button tells the machine what it says", async () => {
  const told: [RunState, string, RunAct][] = [
    ["ready", "Send to the machine", "queue"],
    ["ready", "Put away", "stop"],
    ["running", "Pause", "pause"],
    ["running", "Stop", "stop"],
    ["pausing", "Stop", "stop"],
    ["paused", "Go on", "resume"],
    ["held", "Go on", "resume"],
    ["held", "Put away", "stop"],
    ["stopping", "Stop again", "stop"],
  ];
  for (const [state, name, what] of told) {
    const { user, acts } = buttons(state);
    await user.click(screen.getByRole("button", { name }));
    expect([state, acts]).toEqual([state, [what]]);
    cleanup();
  }
});

test("that a machine stands still can be said only after it was told to stop and did not answer", async () => {
  expect(buttons("stopping").names).not.toContain("I saw it stand still");
  cleanup();
  const { user, acts } = buttons("stopping", "The machine does not answer.");
  await user.click(screen.getByRole("button", { name: "I saw it stand still" }));
  expect(acts).toEqual(["put-away"]);
});

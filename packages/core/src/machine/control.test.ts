import fc from "fast-check";
import {
  controlled,
  maySend,
  newControl,
  shownState,
  type Act,
  type Control,
  type ControlEvent,
  type Wish,
} from "./control";

const wish = (w: Wish): ControlEvent => ({ of: "wish", wish: w });
const [go, pause, stop] = (["go", "pause", "stop"] as const).map(wish);
const greeted: ControlEvent = { of: "greeted", own: true };
const [begun, held, stopped, done, quiet, jammed, unanswered] = (
  ["begun", "held", "stopped", "done", "quiet", "jammed", "unanswered"] as const
).map((of): ControlEvent => ({ of }));
const lost: ControlEvent = { of: "lost", why: "lost" };

/** All events in their order: the control at the end, and everything that was to be done. */
function after(events: readonly ControlEvent[], from = newControl(false)): { control: Control; acts: Act[] } {
  const acts: Act[] = [];
  let control = from;
  for (const event of events) {
    const next = controlled(control, event);
    control = next.control;
    acts.push(...next.acts);
  }
  return { control, acts };
}
const stateAfter = (...events: ControlEvent[]) => shownState(after(events).control);

describe("a run at its machine", () => {
  test("begins, is paused, goes on by telling the machine of the job anew, and ends", () => {
    const { control, acts } = after([greeted, begun, pause, held, go, begun, done]);
    expect([shownState(control), acts]).toEqual(["done", ["begin", "say pause", "begin"]]);
  });

  test.each([
    ["before the machine greets", [stop], "stopped", ["break off"]],
    ["while it greets", [greeted, stop], "stopping", ["begin", "say stop"]],
    ["and begun is heard only then", [greeted, stop, begun], "stopping", ["begin", "say stop"]],
    ["the moment it runs", [greeted, begun, stop], "stopping", ["begin", "say stop"]],
    [
      "and paused meanwhile",
      [greeted, begun, pause, stop, held],
      "stopping",
      ["begin", "say pause", "say stop"],
    ],
    ["and somebody wants to go on", [greeted, begun, stop, go, pause], "stopping", ["begin", "say stop"]],
    ["and answered", [greeted, begun, stop, stopped], "stopped", ["begin", "say stop"]],
    ["and it was done already", [greeted, begun, stop, done], "done", ["begin", "say stop"]],
    [
      "of what is paused",
      [greeted, begun, pause, held, stop, stopped],
      "stopped",
      ["begin", "say pause", "say stop"],
    ],
  ] as const)("stopped %s", (_when, events, state, acts) => {
    const found = after(events);
    expect([shownState(found.control), found.acts]).toEqual([state, acts]);
    expect(maySend(found.control)).toBe(false);
  });

  test("a pause before anything was sent keeps anything from being sent", () => {
    expect(stateAfter(pause)).toBe("paused");
    const { control, acts } = after([pause, greeted, begun]);
    expect([shownState(control), control.phase, acts]).toEqual(["paused", "paused", ["begin", "say pause"]]);
    expect(stateAfter(pause, greeted, begun, go, begun)).toBe("running");
    expect(stateAfter(pause, go, greeted, begun)).toBe("running");
  });

  test("a machine that does not hear is told again, and then the line is broken off", () => {
    const { acts } = after([greeted, begun, stop, unanswered, unanswered, unanswered, unanswered]);
    expect(acts).toEqual(["begin", "say stop", "say stop", "say stop", "say stop", "break off"]);
    // Called again, it is told again, until it says that it has stopped.
    expect(after([greeted, begun, stop, lost, greeted, unanswered]).acts.slice(-2)).toEqual([
      "say stop",
      "say stop",
    ]);
    expect(stateAfter(greeted, begun, stop, lost, greeted, stopped)).toBe("stopped");
    expect(stateAfter(greeted, begun, stop, lost, { of: "greeted", own: false })).toBe("stopped");
    expect(stateAfter(greeted, begun, pause, unanswered, unanswered, lost)).toBe("held");
  });

  test("what happens at the machine itself is taken note of", () => {
    expect(stateAfter(greeted, begun, held)).toBe("paused");
    expect(stateAfter(greeted, begun, stopped)).toBe("stopped");
    expect(after([greeted, begun, quiet]).control.why).toMatch(/heard nothing/);
    expect(stateAfter(greeted, begun, jammed)).toBe("held");
    expect(stateAfter(greeted, begun, lost)).toBe("held");
    expect(stateAfter({ of: "refused", why: "lid" })).toBe("held");
    expect(stateAfter(greeted, begun, { of: "unlocked", why: "w" })).toBe("held");
    expect(stateAfter(greeted, begun, stop, { of: "unlocked", why: "w" })).toBe("left");
  });
});

const anyEvent: fc.Arbitrary<ControlEvent> = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom(go, pause, stop) },
  fc.constantFrom(greeted, begun, held, quiet, done, jammed, unanswered, lost),
  fc.record({ of: fc.constant("greeted" as const), own: fc.boolean() }),
  fc.constant({ of: "refused" as const, why: "no" }),
  fc.constantFrom(stopped),
);

describe("whatever comes, in whatever order", () => {
  test("after a stop nothing is sent and nothing begun; after a pause nothing until somebody says go", () => {
    fc.assert(
      fc.property(fc.boolean(), fc.array(anyEvent, { maxLength: 40 }), (told, events) => {
        let control = newControl(told);
        let wished: Wish = "go";
        for (const event of events) {
          const before = control;
          const next = controlled(control, event);
          control = next.control;
          if (event.of === "wish" && wished !== "stop") wished = event.wish;
          if (before.phase === "ended") expect(next).toEqual({ control: before, acts: [] });
          if (wished === "stop") {
            expect(maySend(control)).toBe(false);
            expect(next.acts).not.toContain("begin");
            expect(["stopping", "ended"]).toContain(control.phase);
            if (control.phase === "ended" && before.phase === "stopping")
              expect(["stopped", "done"]).toContain(control.outcome);
          }
          if (wished === "pause") expect(maySend(control)).toBe(false);
          // Whoever runs and is told to stop or pause is told so at once.
          if (before.phase === "running" && event.of === "wish" && event.wish !== "go")
            expect(next.acts).toEqual([event.wish === "stop" ? "say stop" : "say pause"]);
          if (!before.phase.startsWith("run") && maySend(control)) expect(event.of).toBe("begun");
          if (control.phase === "ended") expect(control.outcome).not.toBeNull();
          else expect(control.outcome).toBeNull();
        }
      }),
      { numRuns: 3000 },
    );
  });
});

/** A machine and a line to it that may lose or delay what is said, told of a run by a control: what beam and run come to. */
class Bench {
  control = newControl(false);
  mode: "idle" | "going" | "held" | "stopped" | "done" = "idle";
  own = false;
  /** A line was taken, and what it says is being made. */
  beam = false;
  private connected = false;
  private readonly toMachine: string[] = [];
  private readonly toRun: ControlEvent[] = [];
  /** Lines that were taken after a stop or a pause had been said and heard. */
  wrong = 0;

  give(event: ControlEvent): void {
    const { control, acts } = controlled(this.control, event);
    this.control = control;
    for (const act of acts) {
      if (act === "break off") this.cut();
      else if (this.connected) this.toMachine.push(act);
    }
  }

  cut(): void {
    if (!this.connected) return;
    this.connected = false;
    this.toMachine.length = 0;
    this.toRun.length = 0;
    this.breakOff("held");
    this.give({ of: "lost", why: "cut" });
  }

  /** One step of everything: who may send sends, who is called answers, who hears nothing puts the beam off. */
  step(kind: "line" | "machine" | "run" | "wait" | "drop"): void {
    const { phase } = this.control;
    if (phase !== "ended" && !this.connected && kind === "line") {
      this.connected = true;
      this.toRun.push({ of: "greeted", own: this.own });
    } else if (kind === "machine" && this.toMachine.length > 0) this.machineHears(this.toMachine.shift()!);
    else if (kind === "run" && this.toRun.length > 0) this.give(this.toRun.shift()!);
    else if (kind === "wait") {
      this.give({ of: "unanswered" });
    } else if (kind === "drop") this.cut();
    if (maySend(this.control) && this.connected) this.toMachine.push("line");
  }

  private machineHears(said: string): void {
    if (said === "begin") {
      [this.own, this.mode] = [true, "going"];
      this.toRun.push({ of: "begun" });
    } else if (said === "line") {
      if (this.mode === "stopped" || this.mode === "held") return; // what waits is forgotten
      if (this.mode === "going") this.beam = true;
      else this.wrong++;
    } else if (said === "say pause") {
      this.breakOff("held");
      this.toRun.push({ of: "held" });
    } else {
      this.breakOff("stopped");
      this.mode = "stopped";
      this.toRun.push({ of: "stopped" });
    }
  }

  private breakOff(mode: "held" | "stopped"): void {
    if (this.mode === "going") this.mode = mode;
    this.beam = false;
  }
}

test("a run, its line and its machine together: however they interleave, a stop ends with the beam off, and what is said is so", () => {
  const steps = fc.constantFrom("line", "machine", "run", "wait", "drop", "machine", "run") as fc.Arbitrary<
    Parameters<Bench["step"]>[0]
  >;
  const moves = fc.array(fc.oneof({ weight: 6, arbitrary: steps }, fc.constantFrom(go, pause, stop)), {
    maxLength: 60,
  });
  fc.assert(
    fc.property(moves, (all) => {
      const bench = new Bench();
      for (const move of all) {
        if (typeof move === "string") bench.step(move);
        else bench.give(move);
        const said = shownState(bench.control);
        if (said === "paused" || said === "stopped" || said === "held") expect(bench.beam).toBe(false);
      }
      // Somebody stops it, and the line is left in peace: it comes to its end within a few steps.
      bench.give(stop);
      for (let k = 0; k < 60 && bench.control.phase !== "ended"; k++) {
        bench.step("line");
        bench.step("machine");
        bench.step("run");
      }
      expect(bench.control.phase).toBe("ended");
      expect(bench.beam).toBe(false);
      expect(bench.wrong).toBe(0);
    }),
    { numRuns: 3000 },
  );
});

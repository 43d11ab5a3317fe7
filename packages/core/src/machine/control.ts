/*
 * What a run does when people and its machine speak, in whatever order: a state machine without time, line or database.
 * docs/machines.md draws it. Whatever is not expected leads to the safe side: nothing is sent, the beam off.
 */

/** What people may wish of a run that is at its machine. */
export type Wish = "go" | "pause" | "stop";

/**
 * calling: the line is being opened. setting: the machine was told which job it is, and says where it goes on. running:
 * lines are sent. pausing, stopping: said, and not answered yet. paused: the machine said that it stands, beam off.
 */
export type Phase = "calling" | "setting" | "running" | "pausing" | "paused" | "stopping" | "ended";

/** How a run came to rest. `left`: another program looks after it now. */
export type Outcome = "done" | "stopped" | "held" | "left";

export interface Control {
  readonly phase: Phase;
  /** A pause was asked for before anything was sent: nothing is sent until somebody says go. */
  readonly pauseAsked: boolean;
  /** Whether the machine was ever told of this job: only then can it be doing anything of it. */
  readonly told: boolean;
  /** How often pause or stop was said without an answer. */
  readonly unanswered: number;
  readonly outcome: Outcome | null;
  readonly why: string | null;
}

export type ControlEvent =
  | { readonly of: "wish"; readonly wish: Wish }
  /** The machine greets. `own`: what lies on its bed is this job. */
  | { readonly of: "greeted"; readonly own: boolean }
  /** It takes the job, and said where it goes on. */
  | { readonly of: "begun" }
  /** The beam is off and it stands: because it was told, or because somebody did that at the machine. */
  | { readonly of: "held" }
  /** It heard nothing for too long and put the beam off by itself. */
  | { readonly of: "quiet" }
  | { readonly of: "stopped" }
  | { readonly of: "done" }
  | { readonly of: "jammed" }
  | { readonly of: "refused"; readonly why: string }
  | { readonly of: "lost"; readonly why: string }
  /** Pause or stop was said a while ago, and nothing came back. */
  | { readonly of: "unanswered" }
  /** This program no longer has the machine for itself. */
  | { readonly of: "unlocked"; readonly why: string };

/** What is to be done at once: tell the machine of the job, say pause or stop, break the line off. */
export type Act = "begin" | "say pause" | "say stop" | "break off";

export interface Controlled {
  readonly control: Control;
  readonly acts: readonly Act[];
}

/** So often pause or stop is said before the line is broken off, which puts the beam off by itself. */
const MOST_SAID = 4;
/** From so many on, people are told that the machine does not hear. */
export const UNHEARD = 2;

/** @param begun  whether the machine was told of this job before. @param stop  it is called only to be stopped */
export const newControl = (begun: boolean, stop = false): Control => ({
  phase: stop ? "stopping" : "calling",
  pauseAsked: false,
  told: begun,
  unanswered: 0,
  outcome: null,
  why: null,
});

/** Whether lines of the program may go out now. */
export const maySend = ({ phase }: Control): boolean => phase === "running";

/** What comes next. Pure: the same control and event give the same. */
export function controlled(control: Control, event: ControlEvent): Controlled {
  if (control.phase === "ended") return { control, acts: [] };
  switch (event.of) {
    case "wish":
      return wished(control, event.wish);
    case "unanswered":
      return unanswered(control);
    case "unlocked":
      // Whoever has the machine now sees to what was wished.
      return control.phase === "stopping"
        ? ended(control, "left", event.why, ["say stop", "break off"])
        : ended(control, "held", event.why, ["say pause", "break off"]);
    case "done":
      return ended(control, "done");
    case "stopped":
      return ended(
        control,
        "stopped",
        control.phase === "stopping" ? null : "It was stopped at the machine.",
      );
    case "jammed":
      // What is jammed has put its beam off and forgotten the rest.
      return control.phase === "stopping"
        ? ended(control, "stopped", "The material jammed.")
        : ended(control, "held", "The material jammed. Clear it, then go on.");
    case "quiet":
      return control.phase === "stopping" || control.phase === "paused"
        ? stay(control)
        : ended(control, "held", "The machine heard nothing for a while and put its beam off.");
    case "refused":
      return control.phase === "stopping"
        ? stay(control, `The machine refuses: ${event.why}.`)
        : ended(control, "held", `The machine refuses: ${event.why}.`, ["break off"]);
    case "lost":
      // It is called again until it says that it has stopped.
      return control.phase === "stopping"
        ? stay({ ...control, unanswered: Math.max(control.unanswered, UNHEARD) }, event.why)
        : ended(control, "held", event.why);
    case "greeted":
      return greeted(control, event.own);
    case "begun":
      if (control.phase !== "setting") return stay(control);
      // Nothing was sent that could move; it is told all the same, and says that it stands.
      return control.pauseAsked
        ? { control: { ...control, phase: "paused" }, acts: ["say pause"] }
        : stay({ ...control, phase: "running" });
    case "held":
      if (control.phase === "running" || control.phase === "pausing")
        return stay({ ...control, phase: "paused", pauseAsked: true, unanswered: 0, why: null });
      return stay(control);
  }
}

function wished(control: Control, wish: Wish): Controlled {
  const { phase, told } = control;
  if (phase === "stopping") return stay(control);
  if (wish === "stop") {
    // Nothing was ever sent: there is nothing to stop.
    if (!told) return ended(control, "stopped", null, ["break off"]);
    return { control: { ...control, phase: "stopping", unanswered: 0, why: null }, acts: ["say stop"] };
  }
  if (wish === "pause") {
    if (phase === "running")
      return {
        control: { ...control, phase: "pausing", pauseAsked: true, unanswered: 0, why: null },
        acts: ["say pause"],
      };
    return stay({ ...control, pauseAsked: true });
  }
  // Go on: the machine forgot what waited, and is told of the job anew.
  if (phase === "paused")
    return { control: { ...control, phase: "setting", pauseAsked: false, told: true }, acts: ["begin"] };
  if (phase === "calling" || phase === "setting") return stay({ ...control, pauseAsked: false });
  return stay(control);
}

function greeted(control: Control, own: boolean): Controlled {
  if (control.phase === "stopping") {
    // Another piece lies on the bed: of this job nothing can be under way.
    if (!own) return ended(control, "stopped");
    return { control, acts: ["say stop"] };
  }
  if (control.phase !== "calling") return stay(control);
  return { control: { ...control, phase: "setting", told: true }, acts: ["begin"] };
}

function unanswered(control: Control): Controlled {
  const { phase } = control;
  if (phase !== "pausing" && phase !== "stopping") return stay(control);
  const times = control.unanswered + 1;
  const next = { ...control, unanswered: times };
  if (times % MOST_SAID === 0) return { control: next, acts: ["break off"] };
  return { control: next, acts: [phase === "pausing" ? "say pause" : "say stop"] };
}

const stay = (control: Control, why = control.why): Controlled => ({
  control: { ...control, why },
  acts: [],
});
const ended = (
  control: Control,
  outcome: Outcome,
  why: string | null = null,
  acts: readonly Act[] = [],
): Controlled => ({ control: { ...control, phase: "ended", outcome, why }, acts });

/** What is written down of a run in this phase. */
export function shownState({
  phase,
  pauseAsked,
  outcome,
}: Control): "running" | "pausing" | "paused" | "stopping" | Outcome {
  if (phase === "ended") return outcome!;
  if (phase === "calling" || phase === "setting") return pauseAsked ? "paused" : "running";
  return phase;
}

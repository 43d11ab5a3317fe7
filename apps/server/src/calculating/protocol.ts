import { type Check } from "@hardline/core/inspect/check";
import { type Pose } from "@hardline/core/machine/camera";
import { type Job } from "@hardline/core/machine/job";
import { type Machine } from "@hardline/core/machine/machine";
import { type CheckedPass } from "@hardline/core/machine/program";
import { type Resumed, type Standing } from "@hardline/core/machine/resume";
import { type RunWish } from "@hardline/core/machine/wish";
import { type NestPiece } from "@hardline/core/sheet/arrangement";
import { type SheetBody, type SheetReach } from "@hardline/core/sheet/sheetFile";

/** What is computed in a process of its own, because it may take long: what goes in, and what comes out. */
export interface Tasks {
  /** What a sheet is looked at for. */
  sheetChecks: [
    asked: {
      readonly pieces: readonly Pick<NestPiece, "outline" | "box">[];
      /** A list of `Placing`, as JSON. */
      readonly placings: string;
      readonly body: SheetBody;
      readonly reach?: SheetReach;
      readonly readsMarks: boolean;
      readonly printed: boolean;
    },
    answer: readonly Check[],
  ];
  /** A program in a file, looked through before it is sent. */
  checkProgram: [
    asked: {
      readonly file: string;
      readonly mediaType: string;
      readonly machine: Machine;
      readonly passes: readonly CheckedPass[];
    },
    answer: { readonly lines: number; readonly sha256: string },
  ];
  /** How a program in a file is sent on from where a machine stands; `offset` of the next line, in bytes. */
  resume: [
    asked: { readonly file: string; readonly machine: Machine; readonly at: Standing },
    answer: Resumed & { readonly offset: number },
  ];
  /** A program made anew for how a sheet lies on the bed, into a file. */
  planAsItLies: [
    asked: {
      readonly file: string;
      readonly job: Job;
      readonly machine: Machine;
      readonly wish: RunWish;
      readonly pose: Pose;
    },
    answer: { readonly mediaType: string; readonly passes: readonly CheckedPass[] },
  ];
  /** The step wedge as a grey PNG, into a file. */
  wedgePicture: [
    asked: { readonly file: string; readonly dotsPerInch: number },
    answer: { readonly bytes: number },
  ];
}

export type Task = keyof Tasks;
export type Asked = { [K in Task]: { readonly task: K; readonly asked: Tasks[K][0] } }[Task];

/** `refused`: it cannot be done as it is, with the reason. `fault`: of the program. */
export type Answer =
  { readonly answer: Tasks[Task][1] } | { readonly refused: string } | { readonly fault: string };

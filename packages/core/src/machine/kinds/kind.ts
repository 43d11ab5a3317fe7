import { type z } from "zod";
import { type Work } from "../../maths/work";
import { type Bits } from "../../raster/types";
import { type Job } from "../job";
import { type MarkEntry } from "../markEntry";
import { type Moves } from "../moves";
import { type CommonProfile, type ProfileNumber } from "../profile";
import { type CheckedPass, type MachineProgram, type OnBed } from "../program";
import { type ProgramLines } from "../programLines";
import { type Resumed, type Standing } from "../resume";
import { type RunWish } from "../wish";

/** A film's dots, as they are in the bytes of its program. */
export interface Film {
  readonly bits: Bits;
  readonly dotsPerInch: number;
  /** Rows of dots that one way of the head prints. */
  readonly swathDots: number;
}

/** One kind of machine: what is known of it, what it can do, how it is told to do it and how what it is told is read. */
export interface MachineKind<P extends CommonProfile = CommonProfile> {
  readonly kind: P["kind"];
  readonly profile: z.ZodObject;
  /** What it is and what it takes, in a few words. */
  readonly words: string;
  /** Its own numbers, as its handbook calls them; those that every machine has stand in `COMMON_NUMBERS`. */
  readonly numbers: readonly ProfileNumber[];
  /** What its card says of it, beside bed and speed: what it is called, and the value. */
  readonly card: (machine: P) => readonly [term: string, value: string];
  /** One that a shop starts with. */
  readonly usual: object;
  /** What its programs are. They are sent line by line, or as a whole. */
  readonly program: {
    readonly mediaType: string;
    readonly extension: string;
    readonly sent: "lines" | "whole";
  };
  /** What a run may wish of it: how rows are run, and where on the bed the job lies. */
  readonly takes: { readonly rows: boolean; readonly place: boolean };
  /** It prints one plate at a time. */
  readonly onePlate?: true;
  /** The speed of its rows, in mm/s, where none is wished; left out by a machine that runs none. */
  readonly rowSpeed?: (machine: P) => number;
  /** The register marks that its camera finds; left out where it has none. */
  readonly marks?: (machine: P) => MarkEntry;

  /** @throws MachineError where it cannot do the job */
  readonly plan: (job: Job, machine: P, wish: RunWish, lies?: OnBed) => Work<MachineProgram>;
  /** What a program has its head do. @throws ProgramError */
  readonly moves: (bytes: Uint8Array, machine: P) => Work<Moves>;
  /** The dots that a program carries; left out where it has moves alone. */
  readonly film?: (bytes: Uint8Array, machine: P) => Work<Film>;
  /** Looks through a program before it is sent, see `checkProgram`; left out where it brings no moves. @throws ProgramError */
  readonly check?: (lines: ProgramLines, machine: P, passes: readonly CheckedPass[]) => Work<void>;
  /** Holds the marks of a program against its job, see `checkMarks`. @throws ProgramError */
  readonly checkMarks?: (
    lines: ProgramLines,
    job: Job,
    machine: P,
    passes: readonly CheckedPass[],
    at: readonly [number, number],
  ) => Work<void>;
  /** What to tell it before the rest of a program; left out where it knows by itself. */
  readonly resume?: (lines: ProgramLines, at: Standing, machine: P) => Work<Resumed>;
}

/** A kind whose profile is not known at compile time. */
export type AnyMachineKind = MachineKind<never>;

export const defineMachineKind = <P extends CommonProfile>(kind: MachineKind<P>): MachineKind<P> => kind;

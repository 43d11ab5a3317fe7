import { type Moves } from "./moves";

/** One pass of a program: a bitmap's rows, or lines that are followed. */
export interface ProgramPass {
  readonly name: string;
  readonly use: "bitmap" | "score" | "kiss" | "through";
  /** Lines of the program, counted from 1: from the one to the other, both in it. */
  readonly lines: readonly [number, number];
  readonly rows?: number;
  /** How much longer its rows would be if each ran over the whole width of the marks: the corners of a round piece. */
  readonly cornersMm?: number;
  readonly paths?: number;
  /** How far the head travels between lines: as they were given, and as they are run. */
  readonly givenMm?: number;
  readonly travelMm?: number;
}

/** What of a program's passes is needed to check it. */
export interface CheckedPass {
  readonly name: string;
  readonly use: string;
  /** Lines of the program, counted from 1: from the one to the other, both in it. */
  readonly lines: readonly [number, number];
}

/** How a sheet of a job lies on the bed: where a place of the job, in mm, comes to be on the bed, both y down. */
export type OnBed = (x: number, y: number) => readonly [number, number];

/** What a machine is sent, byte for byte, and what is to be known of it. */
export interface MachineProgram {
  readonly mediaType: string;
  readonly extension: string;
  readonly bytes: Uint8Array;
  readonly passes: readonly ProgramPass[];
  /** Where the top left of the job lies on the bed, in mm from the bed's own. */
  readonly at: readonly [number, number];
  /** What the program says, read back from its bytes. */
  readonly moves: Moves;
}

/** Lines of text, counted as they are written. */
export class ProgramText {
  private readonly parts: string[] = [];
  lines = 0;

  line(text: string): void {
    this.parts.push(text);
    this.lines++;
  }

  get text(): string {
    return `${this.parts.join("\n")}\n`;
  }
}

/** A length with as many decimals as a machine can use: a tenth of a micrometre. */
export const decimal = (v: number): string => String(Math.round(v * 1e4) / 1e4 || 0);

/** A text as comments of programs take it: neither brackets nor quotes. */
export const plainText = (text: string): string =>
  text.normalize("NFKD").replace(/[^\x20\x21\x23-\x27\x2a-\x7e]/g, "");

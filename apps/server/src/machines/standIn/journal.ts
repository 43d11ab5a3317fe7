import { appendFileSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname } from "node:path";

/** A stretch that was marked, by the line that marked it. */
export type Stretch = readonly [line: number, x0: number, y0: number, x1: number, y1: number];

/** What is on a machine's bed, which outlives whoever runs it. */
export interface Journaled {
  readonly job: string | null;
  readonly executed: number;
  readonly seconds: number;
  /** Where in the line after the last that is done the work ended, and moves of that line that are left. */
  readonly x: number;
  readonly y: number;
  readonly left: number;
  readonly done: boolean;
  readonly stretches: Stretch[];
}

const NOTHING: Omit<Journaled, "stretches"> = {
  ...{ job: null, executed: 0, seconds: 0, x: 0, y: 0, left: 0, done: false },
};

/** Keeps what was marked in a file, a line of JSON for every part of a second. */
export class Journal {
  constructor(private readonly path: string) {
    mkdirSync(dirname(path), { recursive: true });
  }

  /** A fresh piece lies on the bed. */
  begin(job: string): void {
    writeFileSync(this.path, `${JSON.stringify({ job })}\n`);
  }

  add(entry: Omit<Journaled, "job">): void {
    appendFileSync(this.path, `${JSON.stringify(entry)}\n`);
  }

  clear(): void {
    rmSync(this.path, { force: true });
  }

  read(): Journaled {
    let text: string;
    try {
      text = readFileSync(this.path, "utf8");
    } catch {
      return { ...NOTHING, stretches: [] };
    }
    let found: Journaled = { ...NOTHING, stretches: [] };
    const stretches: Stretch[] = [];
    for (const line of text.split("\n")) {
      let entry: Partial<Journaled>;
      try {
        entry = JSON.parse(line);
      } catch {
        continue; // the last one may have been cut off
      }
      for (const stretch of entry.stretches ?? []) stretches.push(stretch);
      found = { ...found, ...entry };
    }
    return { ...found, stretches };
  }
}

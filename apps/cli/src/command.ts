import { MachineError } from "@hardline/core/machine/error";
import { ProgramError } from "@hardline/core/machine/gcode";
import { RouteError } from "@hardline/core/settings/errors";
import { IntakeError } from "@hardline/intake";
import { mkdir, open, readFile, rename, rm } from "node:fs/promises";
import { join } from "node:path";
import { parseArgs } from "node:util";

/** A mistake of whoever calls: told in one line, exit code 2. */
export class CallError extends Error {}

/** Arguments of a command: so many files, a folder for what comes out, options of its own, and some that may be left out. */
export function argumentsOf<O extends string, L extends string = never>(
  usage: string,
  files: number,
  options: readonly O[] = [],
  leftOut: readonly L[] = [],
) {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: {
        out: { type: "string" },
        progress: { type: "boolean", default: false },
        ...Object.fromEntries([...options, ...leftOut].map((o) => [o, { type: "string" as const }])),
      },
    });
    const given = values as Record<string, string | boolean | undefined>;
    const missing = options.some((o) => given[o] === undefined);
    if (positionals.length !== files || !given.out || missing) throw new CallError(usage);
    const more = Object.fromEntries([...options, ...leftOut].map((o) => [o, given[o]])) as Record<O, string> &
      Record<L, string | undefined>;
    return { files: positionals, out: String(given.out), showProgress: given.progress === true, ...more };
  } catch (error) {
    throw error instanceof CallError ? error : new CallError(`${(error as Error).message}; ${usage}`);
  }
}

/** Writes a file into the folder, under its name only when it is whole, and says so. */
export async function deliverInto(out: string, name: string, bytes: Uint8Array): Promise<void> {
  await mkdir(out, { recursive: true }).catch((error: NodeJS.ErrnoException) => {
    throw new CallError(`${out}: cannot be made a folder (${error.code})`);
  });
  await writeWhole(join(out, name), bytes);
  console.log(`${join(out, name)}  ${bytes.length} bytes`);
}

/** Progress on standard error, over itself. */
export const progressOf = (shown: boolean) => (share: number, what: string) => {
  if (shown) process.stderr.write(`\r${what} ${Math.round(share * 100)} %   `);
};

/** Runs a command to its exit code: a mistake of the caller is one line. */
export function runCommand(main: () => Promise<void>): void {
  main().catch((error: unknown) => {
    const expected = [CallError, RouteError, IntakeError, MachineError, ProgramError].some(
      (kind) => error instanceof kind,
    );
    console.error(expected ? (error as Error).message : error);
    process.exitCode = expected ? 2 : 1;
  });
}

export async function read(path: string, what: string): Promise<Uint8Array> {
  try {
    return await readFile(path);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new CallError(
      `${what} ${path}: ${code === "ENOENT" ? "there is no such file" : code === "EISDIR" ? "is a folder" : code}`,
    );
  }
}

export function parseJson(what: string, path: string, bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes).replace(/^\uFEFF/, ""));
  } catch (error) {
    throw new CallError(`${what} ${path}: not JSON (${(error as Error).message.split("\n")[0]})`);
  }
}

/** The file appears under its name only when it is whole and on the disk. */
async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
  const partial = `${path}.${process.pid}.part`;
  try {
    const file = await open(partial, "w");
    try {
      await file.writeFile(bytes);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(partial, path);
  } catch (error) {
    await rm(partial, { force: true });
    throw new CallError(
      `${path}: cannot be written (${(error as NodeJS.ErrnoException).code ?? (error as Error).message})`,
    );
  }
}

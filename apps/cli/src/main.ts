import { deliver, readRoute, RouteError, Runner } from "@hardline/core";
import { IntakeError, takeIn } from "@hardline/intake";
import { mkdir, open, readFile, rename, rm } from "node:fs/promises";
import { join } from "node:path";
import { parseArgs } from "node:util";

const USAGE = "usage: npm run -s route -- ROUTE.json ARTWORK --out DIR [--progress]";

/** A mistake of whoever calls: told in one line, exit code 2. */
class CallError extends Error {}

async function main(): Promise<void> {
  const { routePath, artworkPath, out, showProgress } = readArguments();
  const route = readRoute(parseJson(routePath, await read(routePath, "route file")));
  const artwork = await takeIn(await read(artworkPath, "artwork"));
  const runner = new Runner({ clock: () => performance.now() });
  await deliver(runner, route, artwork, {
    progress: (share, stage) => {
      if (showProgress) process.stderr.write(`\r${stage} ${Math.round(share * 100)} %   `);
    },
    file: async ({ name, bytes }) => {
      await mkdir(out, { recursive: true }).catch((error: NodeJS.ErrnoException) => {
        throw new CallError(`${out}: cannot be made a folder (${error.code})`);
      });
      await writeWhole(join(out, name), bytes);
      console.log(`${join(out, name)}  ${bytes.length} bytes`);
    },
  });
  if (showProgress) process.stderr.write("\n");
}

function readArguments() {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: { out: { type: "string" }, progress: { type: "boolean", default: false } },
    });
    const [routePath, artworkPath] = positionals;
    if (positionals.length !== 2 || !values.out) throw new CallError(USAGE);
    return { routePath, artworkPath, out: values.out, showProgress: values.progress };
  } catch (error) {
    throw error instanceof CallError ? error : new CallError(`${(error as Error).message}; ${USAGE}`);
  }
}

async function read(path: string, what: string): Promise<Uint8Array> {
  try {
    return await readFile(path);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    throw new CallError(
      `${what} ${path}: ${code === "ENOENT" ? "there is no such file" : code === "EISDIR" ? "is a folder" : code}`,
    );
  }
}

function parseJson(path: string, bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes).replace(/^\uFEFF/, ""));
  } catch (error) {
    throw new CallError(`route file ${path}: not JSON (${(error as Error).message.split("\n")[0]})`);
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

main().catch((error: unknown) => {
  const expected = error instanceof CallError || error instanceof RouteError || error instanceof IntakeError;
  console.error(expected ? (error as Error).message : error);
  process.exitCode = expected ? 2 : 1;
});

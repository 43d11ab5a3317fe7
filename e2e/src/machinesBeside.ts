import { type MachineView } from "@hardline/contract";
import { spawn, type ChildProcess } from "node:child_process";
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ROOT, ask, type Program } from "./harness";

/** A stand-in as a program of its own, known to a running product. */
export interface MachineBeside {
  readonly floor: string;
  /** What goes wrong with it. */
  faults(faults: object): Promise<void>;
  /** Ends it at once, as kill -9 would. */
  kill(): Promise<void>;
  /** The same machine again, with what lies on its bed. */
  restart(): Promise<void>;
  stop(): Promise<void>;
}

/** Starts a stand-in and tells the program where it listens. */
export async function machineBeside(
  program: () => Program,
  key: string,
  pace = 0,
  root = ROOT,
): Promise<MachineBeside> {
  const folder = mkdtempSync(join(tmpdir(), "hard-line-machine-"));
  let child: ChildProcess;
  let [port, floor] = [0, 0];
  const start = async (): Promise<void> => {
    const main = join(root, "apps/server/dist/machines/standIn/main.js");
    const options = { machine: key, port, floor, pace, folder };
    const args = Object.entries(options).map(([name, value]) => `--${name}=${value}`);
    child = spawn(process.execPath, [main, ...args], { stdio: ["ignore", "pipe", "inherit"] });
    const [said] = (await once(child.stdout!, "data")) as [Buffer];
    [port, floor] = said.toString().match(/\d+/g)!.map(Number);
  };
  const end = async (signal: NodeJS.Signals): Promise<void> => {
    if (child.exitCode !== null || child.signalCode !== null) return;
    child.kill(signal);
    await once(child, "exit");
  };
  await start();
  const all = await ask<MachineView[]>(`${program().url}/api/machines`);
  const { machine, version } = all.find((m) => m.machine.key === key)!;
  await ask(`${program().url}/api/machines`, "PUT", { machine, version, host: "127.0.0.1", port, floor });
  return {
    floor: `http://127.0.0.1:${floor}`,
    faults: async (faults) => {
      await fetch(`http://127.0.0.1:${floor}/faults`, { method: "POST", body: JSON.stringify(faults) });
    },
    kill: () => end("SIGKILL"),
    restart: start,
    stop: async () => {
      await end("SIGTERM");
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

import { spawn } from "node:child_process";
import { once } from "node:events";
import { existsSync } from "node:fs";
import { join } from "node:path";
import { ROOT } from "../../../e2e/src/harness";

test("a process whose parent was killed ends itself, in the middle of a computation that never ends", async () => {
  const own = join(ROOT, "apps/server/dist/processes/endWithParent.js");
  const busy = `require(${JSON.stringify(own)}).endWithParent(); setTimeout(() => { for (;;); }, 100);`;
  const script = `
    const child = require("node:child_process").spawn(process.execPath, ["-e", ${JSON.stringify(busy)}]);
    console.log(child.pid);
    setInterval(() => {}, 1000);`;
  const parent = spawn(process.execPath, ["-e", script], { stdio: ["ignore", "pipe", "inherit"] });
  const [said] = (await once(parent.stdout, "data")) as [Buffer];
  const child = Number(said.toString());
  await new Promise((r) => setTimeout(r, 1500));
  expect(existsSync(`/proc/${child}`)).toBe(true);
  parent.kill("SIGKILL");
  await once(parent, "exit");
  for (let k = 0; k < 100 && existsSync(`/proc/${child}`); k++) await new Promise((r) => setTimeout(r, 100));
  expect(existsSync(`/proc/${child}`)).toBe(false);
});

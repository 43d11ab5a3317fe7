import { once } from "node:events";
import { connect, createServer, type Socket } from "node:net";
import { ask, freePort, newDatabase, startProgram } from "../../../e2e/src/harness";

test("a program that is started before its database waits for it", async () => {
  const at = new URL(await newDatabase());
  const port = await freePort();
  const sockets: Socket[] = [];
  const way = createServer((own) => {
    const there = connect(Number(at.port), at.hostname);
    sockets.push(own, there);
    for (const [a, b] of [
      [own, there],
      [there, own],
    ]) {
      a.pipe(b);
      a.on("error", () => b.destroy());
    }
  });
  const away = new URL(at);
  away.port = String(port);
  away.hostname = "127.0.0.1";
  const starting = startProgram(away.href, ["--role=server"]);
  let isReady = false;
  void starting.then(() => (isReady = true));
  // Long after its code is loaded it is still waiting, and has not ended.
  await new Promise((r) => setTimeout(r, 6000));
  expect(isReady).toBe(false);
  way.listen(port, "127.0.0.1");
  await once(way, "listening");
  const program = await starting;
  expect(await ask(`${program.url}/api/health`)).toMatchObject({ status: "up" });
  await program.stop();
  for (const socket of sockets) socket.destroy();
  way.close();
});

import fc from "fast-check";
import { once } from "node:events";
import { createServer, type Server, type Socket } from "node:net";
import { LineError, MachineLine } from "./machineLine";

let server: Server;
let port: number;
let callers: Socket[];

beforeAll(async () => {
  callers = [];
  server = createServer((socket) => {
    socket.on("error", () => {});
    callers.push(socket);
  }).listen(0, "127.0.0.1");
  await once(server, "listening");
  ({ port } = server.address() as { port: number });
});
afterAll(() => {
  for (const socket of callers) socket.destroy();
  server.close();
});

/** A line, and the machine's end of it. */
async function opened(): Promise<{ line: MachineLine; machine: Socket }> {
  const came = once(server, "connection");
  const line = await MachineLine.open("127.0.0.1", port);
  const [machine] = (await came) as [Socket];
  machine.setNoDelay(true).resume();
  return { line, machine };
}

/** The next whole reply, however often it was looked in vain. */
async function nextOf(line: MachineLine): Promise<string> {
  for (;;) {
    const heard = await line.next(1000);
    if (heard !== null) return heard;
  }
}

const word = fc.stringMatching(/^[ -~]{0,30}$/).map((text) => text.trim());
const ending = fc.constantFrom("\n", "\r\n");

test("whatever replies come, wherever they are cut or joined, they are read one by one", async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(word, ending), { minLength: 1, maxLength: 8 }),
      fc.array(fc.nat(40), { maxLength: 10 }),
      async (replies, cuts) => {
        const { line, machine } = await opened();
        const bytes = Buffer.from(replies.map(([text, end]) => text + end).join(""));
        for (let from = 0, k = 0; from < bytes.length; k++) {
          const to = Math.min(bytes.length, from + 1 + (cuts[k % (cuts.length || 1)] ?? bytes.length));
          machine.write(bytes.subarray(from, to));
          from = to;
          if (k % 3 === 0) await new Promise((r) => setImmediate(r));
        }
        for (const [text] of replies) expect(await nextOf(line)).toBe(text);
        expect(await line.next(1)).toBeNull();
        line.close();
      },
    ),
    { numRuns: 60 },
  );
});

test("a reply of which only a part is there is waited for, and does not end anything", async () => {
  const { line, machine } = await opened();
  for (const letter of "hello mach") {
    machine.write(letter);
    expect(await line.next(5)).toBeNull();
  }
  machine.write("ine\n");
  expect(await nextOf(line)).toBe("hello machine");
  line.close();
});

test("what has no end, and what never ends, ends the line with why; what was lost says so", async () => {
  const endless = await opened();
  endless.machine.write("x".repeat(2 << 20));
  await expect(nextOf(endless.line)).rejects.toThrow(
    new LineError("The machine says something without an end."),
  );
  const flood = await opened();
  flood.machine.write("ok 1\n".repeat(50000));
  const all = async (): Promise<void> => {
    await new Promise((r) => setTimeout(r, 500)); // nobody looks for a while
    for (;;) await nextOf(flood.line);
  };
  await expect(all()).rejects.toThrow(/more than a machine does|lost/);
  const lost = await opened();
  lost.machine.write("last words\n");
  lost.machine.end();
  expect(await nextOf(lost.line)).toBe("last words");
  await expect(nextOf(lost.line)).rejects.toThrow("The line to the machine was lost.");
}, 60000);

test("who waits is woken when there is something else to do, and a line that is broken off is heard at once", async () => {
  const { line, machine } = await opened();
  const waits = line.next(60000);
  line.wakeUp();
  expect(await waits).toBeNull();
  const closed = new Promise<boolean>((r) =>
    machine.once("error", () => r(true)).once("close", () => r(false)),
  );
  line.say("half a line");
  line.breakOff();
  await closed;
  await expect(line.next(10)).rejects.toThrow("broken off");
  await expect(MachineLine.open("127.0.0.1", 1)).rejects.toThrow(/Is it switched on\?/);
});

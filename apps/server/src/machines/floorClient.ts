import { Inject, Injectable } from "@nestjs/common";
import { request } from "node:http";
import { isIPv6 } from "node:net";
import { ProblemException } from "../http/problems";
import { type KnownMachine } from "./machines.service";
import { MachineReach } from "./reach";

const ASK_MS = 20000;
const MOST_BYTES = 64 << 20;
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

interface FloorAnswer {
  readonly type: string;
  readonly headers: Readonly<Record<string, string | string[] | undefined>>;
  readonly body: Buffer;
}

/**
 * Asks the shop floor of a stand-in. What answers there is not trusted: no redirect is followed, an answer has a limit, and
 * is used only if it is what it should be.
 */
@Injectable()
export class FloorClient {
  constructor(@Inject(MachineReach) private readonly reach: MachineReach) {}

  /** Which job lies on the bed; null where nothing is said of one. */
  async job(known: KnownMachine): Promise<string | null> {
    const { type, body } = await this.ask(known, "/");
    const said: unknown = type === "application/json" ? parsed(body) : null;
    const job = typeof said === "object" && said !== null && "job" in said ? said.job : undefined;
    if (job !== null && !(typeof job === "string" && /^[A-Za-z0-9-]{1,40}$/.test(job)))
      throw notAsItShould("does not say what lies on its bed");
    return job;
  }

  /** A picture. @param size  that it must have, where that is known */
  async picture(
    known: KnownMachine,
    path: string,
    size?: { readonly width: number; readonly height: number },
  ): Promise<{ readonly png: Buffer; readonly twice: number }> {
    const { type, headers, body } = await this.ask(known, path);
    const is = type === "image/png" ? sizeOfPng(body) : null;
    if (!is || (size && (is.width !== size.width || is.height !== size.height)))
      throw notAsItShould("answers with what is not the picture that was asked for");
    const twice = Number(headers["x-twice"] ?? 0);
    return { png: body, twice: Number.isSafeInteger(twice) && twice >= 0 ? twice : 0 };
  }

  async tell(known: KnownMachine, path: string, json: unknown): Promise<void> {
    await this.ask(known, path, JSON.stringify(json));
  }

  private async ask({ host, floor }: KnownMachine, path: string, body?: string): Promise<FloorAnswer> {
    if (!floor) throw notAsItShould("has no floor");
    const address = await this.reach.addressOf(host).catch((error: Error) => {
      throw new ProblemException(409, "Not called", `The machine's floor was not called: ${error.message}.`);
    });
    const at = isIPv6(address) ? `[${address}]` : address;
    return new Promise((done, failed) => {
      const away = (): void =>
        failed(
          new ProblemException(409, "No answer", "The machine's floor does not answer. Is it switched on?"),
        );
      const asked = request({
        ...{ host: address, port: floor, path, method: body === undefined ? "GET" : "POST" },
        headers: {
          Host: `${at}:${floor}`,
          ...(body === undefined ? {} : { "Content-Type": "application/json" }),
        },
        ...{ timeout: ASK_MS, signal: AbortSignal.timeout(ASK_MS) },
      });
      asked.on("error", away);
      asked.on("timeout", () => asked.destroy());
      asked.on("response", (response) => {
        if (response.statusCode !== 200) {
          response.destroy();
          return failed(notAsItShould(`answers with ${response.statusCode}`));
        }
        const parts: Buffer[] = [];
        let bytes = 0;
        response.on("data", (part: Buffer) => {
          bytes += part.length;
          if (bytes > MOST_BYTES) response.destroy(new Error("too much"));
          else parts.push(part);
        });
        response.on("error", away);
        response.on("end", () => {
          const type = (response.headers["content-type"] ?? "").split(";")[0].trim();
          done({ type, headers: response.headers, body: Buffer.concat(parts) });
        });
      });
      asked.end(body);
    });
  }
}

const notAsItShould = (why: string): ProblemException =>
  new ProblemException(409, "No machine's floor", `What is said to be the machine's floor ${why}.`);

function parsed(body: Buffer): unknown {
  try {
    return JSON.parse(body.toString("utf8"));
  } catch {
    return null;
  }
}

/** Width and height of what is a PNG from its first byte to its last, chunk by chunk; null for anything else. */
export function sizeOfPng(bytes: Buffer): { readonly width: number; readonly height: number } | null {
  if (bytes.length < 45 || !bytes.subarray(0, 8).equals(PNG)) return null;
  let size: { width: number; height: number } | null = null;
  for (let at = 8; at + 12 <= bytes.length;) {
    const length = bytes.readUInt32BE(at);
    const name = bytes.toString("latin1", at + 4, at + 8);
    if (at + 12 + length > bytes.length) return null;
    if (at === 8) {
      if (name !== "IHDR" || length !== 13) return null;
      size = { width: bytes.readUInt32BE(at + 8), height: bytes.readUInt32BE(at + 12) };
    } else if (!["pHYs", "IDAT", "IEND"].includes(name)) return null;
    at += 12 + length;
    if (name === "IEND") return at === bytes.length ? size : null;
  }
  return null;
}

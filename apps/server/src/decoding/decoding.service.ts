import { type ArtworkPaths, type FontRead, type PageView } from "@hardline/contract";
import { IntakeError, partWords, sniff, type Part } from "@hardline/intake";
import { Inject, Injectable, type OnApplicationShutdown, type OnModuleInit } from "@nestjs/common";
import { mkdtemp, open, readdir, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Settings } from "../settings";
import { type WedgeReading } from "@hardline/core/wedge/readPhoto";
import { Lane, type Progress } from "../processes/lane";
import { type Answer, type Asked, type Taken } from "./protocol";

/** A file by its fingerprint, and what of it is taken. */
export interface PartOf {
  readonly sha256: string;
  readonly part: Part;
}

const GB = 2 ** 30;
const DECODER = {
  script: join(__dirname, "decoder.js"),
  words: ["pictures", "read"] as const,
  advice: "Make it simpler or smaller, or save it as PNG.",
};
const SMALL_PIXELS = 16e6;
const FOLDER = "hard-line-decoding-";

/**
 * Decodes pictures and draws shapes in processes of their own. What is quick has a lane for itself, so that nobody
 * waits behind a drawing that takes long or a picture of two hundred million pixels.
 */
@Injectable()
export class Decoding implements OnModuleInit, OnApplicationShutdown {
  private folder: Promise<string> | null = null;
  private readonly quick = new Lane<Asked, Answer>({
    ...DECODER,
    ...{ name: "quick", seconds: 20, memoryBytes: 1.5 * GB, mostWaiting: 64, behind: 2 },
  });
  private readonly large = new Lane<Asked, Answer>({
    ...DECODER,
    ...{ name: "large", seconds: 120, memoryBytes: 4 * GB, mostWaiting: 16, behind: 8, once: true },
  });
  private readonly shapes: Lane<Asked, Answer>;
  /** Drawings that were too much once: they are not tried again while the program runs. */
  private readonly tooMuch = new Map<string, string>();

  constructor(@Inject(Settings) private readonly settings: Settings) {
    this.shapes = new Lane<Asked, Answer>({
      ...DECODER,
      ...{ name: "shapes", seconds: settings.drawSeconds, memoryBytes: 3 * GB, mostWaiting: 16, behind: 10 },
    });
  }

  onModuleInit(): void {
    if (this.settings.role === "worker") return;
    this.quick.warm();
    void removeLeftBehind();
  }

  async onApplicationShutdown(): Promise<void> {
    for (const lane of [this.quick, this.large, this.shapes]) lane.close();
    if (this.folder) await rm(await this.folder, { recursive: true, force: true });
  }

  /** A folder for one piece of work, which its owner removes. */
  async workFolder(): Promise<string> {
    this.folder ??= mkdtemp(join(tmpdir(), `${FOLDER}${process.pid}-`));
    return mkdtemp(join(await this.folder, "w-"));
  }

  /**
   * Reads a file whole: what it is, its pixels, a thumbnail and what can be measured.
   * @param toPutOff  whether one so large that it takes long is left alone
   * @returns nothing where it was left alone
   * @throws IntakeError
   */
  async take(file: string, folder: string, of: PartOf, toPutOff: true): Promise<Taken | null>;
  async take(file: string, folder: string, of: PartOf, told?: (how: Progress) => void): Promise<Taken>;
  async take(
    file: string,
    folder: string,
    { sha256, part }: PartOf,
    how?: true | ((how: Progress) => void),
  ): Promise<Taken | null> {
    const asked: Asked = { what: "take", file, folder, part, mostPixels: SMALL_PIXELS };
    // One that was put off is known to be large.
    const large = typeof how === "function";
    const shapes = sniff(await headOf(file))?.vector;
    const answer = shapes
      ? await this.draws(`${sha256}${partWords(part)}`, asked)
      : large
        ? { tooLarge: true }
        : await this.quick.ask(asked);
    if (!("tooLarge" in answer)) return takenOf(answer);
    if (how === true) return null;
    return takenOf(await this.large.ask({ ...asked, mostPixels: Infinity }, how));
  }

  /** Reads a step wedge off its photograph. @throws IntakeError where there is none on it */
  async wedge(file: string, dotsPerInch: number, burnsPale: boolean): Promise<WedgeReading> {
    const answer = await this.large.ask({ what: "wedge", file, dotsPerInch, burnsPale });
    if ("wedge" in answer) return answer.wedge;
    throw faultOf(answer);
  }

  /** Draws shapes so wide and returns the PNG's path. @throws IntakeError */
  async draw(file: string, folder: string, { sha256, part }: PartOf, width: number): Promise<string> {
    const key = `${sha256}${partWords(part)} ${width}`;
    const answer = await this.draws(key, { what: "draw", file, folder, part, width });
    if ("drawn" in answer) return answer.drawn;
    throw faultOf(answer);
  }

  /** The pages of a file that has some. @throws IntakeError */
  async pages(file: string, sha256: string): Promise<readonly PageView[]> {
    const answer = await this.draws(`${sha256} pages`, { what: "pages", file });
    if ("pages" in answer) return answer.pages;
    throw faultOf(answer);
  }

  /** The paths of a file that is made of shapes. @throws IntakeError */
  async paths(file: string, { sha256, part }: PartOf): Promise<ArtworkPaths> {
    const answer = await this.draws(`${sha256}${partWords(part)} paths`, { what: "paths", file, part });
    if ("paths" in answer) return answer.paths;
    throw faultOf(answer);
  }

  /** What a font's file holds. @throws IntakeError that says what is wrong with it */
  async font(file: string): Promise<FontRead> {
    const answer = await this.quick.ask({ what: "font", file });
    if ("font" in answer) return answer.font;
    throw faultOf(answer);
  }

  /** A lossless PNG halved as often as it is kept: the paths of the halves, the largest first. */
  async halve(file: string, folder: string): Promise<readonly string[]> {
    const answer = await this.large.ask({ what: "halve", file, folder });
    if ("halves" in answer) return answer.halves;
    throw faultOf(answer);
  }

  private async draws(key: string, asked: Asked): Promise<Answer> {
    const known = this.tooMuch.get(key);
    if (known) throw new IntakeError(known);
    try {
      return await this.shapes.ask(asked);
    } catch (error) {
      if (error instanceof IntakeError) {
        if (this.tooMuch.size > 1000) this.tooMuch.clear();
        this.tooMuch.set(key, error.message);
      }
      throw error;
    }
  }
}

function takenOf(answer: Answer): Taken {
  if ("taken" in answer) return answer.taken;
  throw faultOf(answer);
}

const faultOf = (answer: Answer): Error =>
  "refused" in answer
    ? new IntakeError(answer.refused)
    : new Error("fault" in answer ? answer.fault : "the decoder answered something else");

async function headOf(path: string): Promise<Buffer> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(65536), 0, 65536, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** Folders of programs that were killed. */
async function removeLeftBehind(): Promise<void> {
  for (const name of await readdir(tmpdir()).catch(() => [])) {
    const owner = name.startsWith(FOLDER) && Number(/^\d+/.exec(name.slice(FOLDER.length))?.[0]);
    if (!owner || isAlive(owner)) continue;
    await rm(join(tmpdir(), name), { recursive: true, force: true }).catch(() => undefined);
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "EPERM";
  }
}

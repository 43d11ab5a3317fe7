import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Pose } from "@hardline/core/machine/camera";
import { type Job } from "@hardline/core/machine/job";
import { type CheckedPass } from "@hardline/core/machine/program";
import { type PathSet } from "@hardline/core/path/pathSet";
import { Inject, Injectable } from "@nestjs/common";
import { BlobStore } from "../blobs/blob.store";
import { Calculating } from "../calculating/calculating.service";
import { readJobMarks } from "@hardline/core/machine/jobMarks";
import { LineError } from "../machines/machineLine";
import { type KnownMachine } from "../machines/machines.service";
import { type RunRow } from "./runs.store";

/** A program on its way to a machine: looked through, and in a file for whoever computes with it. */
export interface Sending {
  readonly file: string;
  readonly bytes: Buffer;
  readonly sha256: string;
  readonly lines: number;
  readonly remove: () => Promise<void>;
}

/** Gets programs ready to be sent. Nothing goes to a machine that was not looked through here, byte for byte. */
@Injectable()
export class SendingService {
  constructor(
    @Inject(BlobStore) private readonly blobs: BlobStore,
    @Inject(Calculating) private readonly calculating: Calculating,
  ) {}

  /** The program as it was planned, or as it was sent before. @throws LineError where it is not fit to be sent */
  async ofRun(run: RunRow, { machine }: KnownMachine): Promise<Sending> {
    const sha256 = (run.executed > 0 ? run.sentSha256 : null) ?? run.programSha256!;
    return this.checked(await this.blobs.get(sha256), run.plan!.mediaType, machine, run.plan!.passes, sha256);
  }

  /** The program made anew for how the printed sheet lies on the bed. */
  async asItLies(run: RunRow, { machine }: KnownMachine, pose: Pose): Promise<Sending> {
    const { marks, sets } = run.job as unknown as { marks: unknown; sets: readonly PathSet[] };
    const { widthMm, heightMm } = readJobMarks(marks);
    const job: Job = { name: run.name, widthMm, heightMm, bitmaps: [], sets: sets.map(packed) };
    const { file, remove } = await fileFor(new Uint8Array());
    try {
      const asked = { file, job, machine, wish: run.wish, pose };
      const { mediaType, passes } = await this.calculating.do("machines", "planAsItLies", asked);
      return await this.checked(await readFile(file), mediaType, machine, passes, null);
    } catch (error) {
      throw asLineError(error);
    } finally {
      await remove();
    }
  }

  private async checked(
    bytes: Buffer,
    mediaType: string,
    machine: KnownMachine["machine"],
    passes: readonly CheckedPass[],
    wanted: string | null,
  ): Promise<Sending> {
    const { file, remove } = await fileFor(bytes);
    try {
      const asked = { file, mediaType, machine, passes };
      const { lines, sha256 } = await this.calculating.do("machines", "checkProgram", asked);
      if (wanted !== null && sha256 !== wanted)
        throw new LineError("The program that is kept is not the one that was planned. Plan it again.");
      return { file, bytes, sha256, lines, remove };
    } catch (error) {
      await remove();
      throw asLineError(error);
    }
  }
}

const asLineError = (error: unknown): Error =>
  error instanceof LineError
    ? error
    : new LineError(`The program is not sent: ${(error as Error).message}. Plan it again.`);

async function fileFor(bytes: Uint8Array): Promise<{ file: string; remove: () => Promise<void> }> {
  const folder = await mkdtemp(join(tmpdir(), "hard-line-sending-"));
  const file = join(folder, "program");
  await writeFile(file, bytes);
  return { file, remove: () => rm(folder, { recursive: true, force: true }) };
}

/** A set as it was kept in the database. */
const packed = (set: PathSet): PathSet => ({
  ...set,
  points: Float64Array.from(set.points),
  starts: Uint32Array.from(set.starts),
  closed: Uint8Array.from(set.closed),
});

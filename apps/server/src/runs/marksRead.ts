import { findMark, fitPose, posedAt, type Pose } from "@hardline/core/machine/camera";
import { machineKindOf } from "@hardline/core/machine/machine";
import { type BlobStore } from "../blobs/blob.store";
import { readJobMarks, type JobMarks } from "@hardline/core/machine/jobMarks";
import { LineError } from "../machines/machineLine";
import { type KnownMachine } from "../machines/machines.service";
import { type RunRow, type RunsStore } from "./runs.store";
import { type Sending, type SendingService } from "./sending";

/** Says something to the machine, and waits for the words that follow the answer's first. */
export type Asks = (words: string, answer: string) => Promise<readonly string[]>;

/** The program of a run: as it was looked at; of what is printed and then cut, made anew for how the sheet lies. */
export async function sendingOf(
  run: RunRow,
  known: KnownMachine,
  {
    sending,
    runs,
    blobs,
  }: { readonly sending: SendingService; readonly runs: RunsStore; readonly blobs: BlobStore },
  asks: Asks,
): Promise<Sending> {
  const isRead = run.job !== null && Boolean(machineKindOf(known.machine).marks);
  if (!isRead || (run.sentSha256 !== null && run.executed > 0)) return sending.ofRun(run, known);
  const marks = readJobMarks((run.job as { marks?: unknown }).marks);
  const { pose, used, offMm } = await readMarks(marks, asks);
  const made = await sending.asItLies(run, known, pose);
  const sentSha256 = await blobs.put(made.bytes, run.plan!.mediaType);
  const camera = {
    ...howItLies(pose, marks),
    used: used.length,
    of: marks.places.length,
    offMm: rounded(offMm, 1000),
  };
  await runs.set(String(run.id), { sentSha256, camera: JSON.stringify(camera) });
  return made;
}

function howItLies(pose: Pose, { widthMm, heightMm }: JobMarks): { turnDegrees: number; shiftMm: number } {
  const turn = (Math.atan2(pose[3], pose[0]) * 180) / Math.PI;
  const [cx, cy] = posedAt(pose, widthMm / 2, heightMm / 2);
  const shift = Math.hypot(cx - widthMm / 2, cy - heightMm / 2);
  return { turnDegrees: rounded(turn, 1000), shiftMm: rounded(shift, 100) };
}

/** The camera goes to where each mark should be. @throws LineError where too few of them go together */
async function readMarks(marks: JobMarks, asks: Asks) {
  const found = [];
  for (const place of marks.places) found.push(await lookFor(marks, place, asks));
  const fitted = fitPose(marks.places, found);
  if (fitted) return fitted;
  const seen = found.filter(Boolean).length;
  throw new LineError(
    `The camera found ${seen} of ${marks.places.length} marks that go together; 3 are needed. Is the printed sheet in, its top left at the bed's?`,
  );
}

async function lookFor({ entry }: JobMarks, [x, y]: readonly [number, number], asks: Asks) {
  const [width, height, mmPerPixel, data] = await asks(`LOOK ${x} ${y}`, "seen");
  if (width === "none") throw new LineError("The camera sees no sheet. Lay the printed sheet in.");
  const [w, h, mm] = [width, height, mmPerPixel].map(Number);
  const bytes = Buffer.from(data ?? "", "base64");
  if (!(w > 0 && h > 0 && mm > 0 && bytes.length === w * h))
    throw new LineError("What the camera sees did not arrive whole.");
  const picture = { width: w, height: h, data: new Uint8Array(bytes) };
  return findMark({ picture, xMm: x - (w * mm) / 2, yMm: y - (h * mm) / 2, mmPerPixel: mm }, entry);
}

const rounded = (value: number, parts: number): number => Math.round(value * parts) / parts;

import { pagesOf, takeIn } from "@hardline/intake";
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import sharp from "sharp";
import { makePdfs, type MadePdf } from "./pdfFiles";

/** Pixels across at which both draw; and how many times as large the other one does. */
const [WIDTH, FINER] = [1200, 8];

/** A shape covers what lies in it, and no pixel beside that. */
const EXACT = "0 0 .setfilladjust2";

interface Row {
  /** Differences of 255, all channels: mean, and what 99 % are under. */
  readonly mean: number;
  readonly most: number;
  readonly ms: number;
}

/* Prints how near PDFs made by other programs are drawn to what another renderer draws. With a folder as argument, pictures are left there. */
async function main(): Promise<void> {
  const folder = process.argv[2] ?? mkdtempSync(join(tmpdir(), "hard-line-pdfs-"));
  console.log("| PDF by | mean, of 255 | 99 % under | ms |");
  console.log("| --- | ---: | ---: | ---: |");
  const rows: (Row & { readonly unseen: boolean })[] = [];
  for (const made of makePdfs(folder)) {
    const row = await compared(made, process.argv[2]);
    rows.push({ ...row, unseen: made.unseen });
    console.log(
      `| ${made.unseen ? "*" : ""}${made.name} | ${row.mean.toFixed(2)} | ${row.most} | ${row.ms.toFixed(0)} |`,
    );
  }
  for (const [what, of] of [
    ["* no rule was set by", rows.filter((r) => r.unseen)],
    ["seen while rules were set", rows.filter((r) => !r.unseen)],
  ] as const) {
    const fine = of.filter((r) => r.mean <= 2 && r.most <= 12).length;
    const mean = of.reduce((s, r) => s + r.mean, 0) / of.length;
    console.log(
      `\n${what}: ${fine} of ${of.length} within 2 in the mean and 12 at 99 %; mean ${mean.toFixed(2)}`,
    );
  }
  if (!process.argv[2]) rmSync(folder, { recursive: true, force: true });
}

async function compared({ name, path, page }: MadePdf, keep?: string): Promise<Row> {
  const started = performance.now();
  const bytes = readFileSync(path);
  const intake = await takeIn(bytes, { page, box: "crop" });
  const width = intake.facts.vector ? WIDTH : intake.facts.width;
  const ours = await intake.pixels(width);
  const ms = performance.now() - started;
  const { boxes } = (await pagesOf(bytes))[page - 1];
  const other = byAnother(path, page, boxes[0], ours);
  const raw = { width: ours.width, height: ours.height, channels: 4 as const };
  const onPaper = await sharp(ours.data, { raw }).flatten({ background: "#fff" }).raw().toBuffer();
  if (other.length !== onPaper.length)
    throw new Error(`${name}: ${other.length} bytes beside ${onPaper.length}`);
  if (keep)
    for (const [what, pixels] of [
      ["ours", onPaper],
      ["other", other],
    ] as const)
      await sharp(pixels, { raw: { ...raw, channels: 3 } }).toFile(
        path.replace(/\.pdf$/, `-${page}-${what}.png`),
      );
  const counts = new Uint32Array(256);
  onPaper.forEach((v, i) => counts[Math.abs(v - other[i])]++);
  let [sum, seen, most] = [0, 0, -1];
  counts.forEach((n, off) => {
    sum += n * off;
    seen += n;
    if (most < 0 && seen >= 0.99 * onPaper.length) most = off;
  });
  return { mean: sum / onPaper.length, most, ms };
}

/** The page as Ghostscript draws it: many times as large without smoothing, each pixel the mean of what it covers. */
function byAnother(
  path: string,
  page: number,
  { widthMm, heightMm }: { readonly widthMm: number; readonly heightMm: number },
  { width, height }: { readonly width: number; readonly height: number },
): Uint8Array {
  const [across, down] = [(25.4 * width * FINER) / widthMm, (25.4 * height * FINER) / heightMm];
  const size = [`-g${width * FINER}x${height * FINER}`, `-r${across}x${down}`];
  const quiet = ["-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=ppmraw", "-dUseCropBox"];
  const [first, last] = [`-dFirstPage=${page}`, `-dLastPage=${page}`];
  const out = execFileSync(
    "gs",
    [...quiet, ...size, first, last, "-sOutputFile=-", "-c", EXACT, "-f", path],
    {
      maxBuffer: 1 << 29,
      stdio: "pipe",
    },
  );
  const fine = out.subarray(out.length - 3 * width * height * FINER * FINER); // behind a few lines of head
  return Uint8Array.from({ length: width * height * 3 }, (_, o) => {
    const [x, y, k] = [((o - (o % 3)) / 3) % width, Math.floor(o / 3 / width), o % 3];
    let sum = 0;
    for (let v = 0; v < FINER; v++)
      for (let u = 0; u < FINER; u++) sum += fine[((y * FINER + v) * width * FINER + x * FINER + u) * 3 + k];
    return Math.round(sum / (FINER * FINER));
  });
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});

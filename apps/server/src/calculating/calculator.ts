import { writeGrayPng } from "@hardline/core/format/png";
import { checkProgram } from "@hardline/core/machine/checkProgram";
import { MachineError } from "@hardline/core/machine/error";
import { posedAt } from "@hardline/core/machine/camera";
import { ProgramError } from "@hardline/core/machine/gcode";
import { planRun } from "@hardline/core/machine/plan";
import { ProgramLines } from "@hardline/core/machine/programLines";
import { resumeAt } from "@hardline/core/machine/resume";
import { runToEnd } from "@hardline/core/maths/work";
import { RouteError } from "@hardline/core/settings/errors";
import { nestPieces } from "@hardline/core/sheet/arrange";
import { type Placing } from "@hardline/core/sheet/arrangement";
import { checkSheet } from "@hardline/core/sheet/checks";
import { drawWedge } from "@hardline/core/wedge/layout";
import { createHash } from "node:crypto";
import { readFile, writeFile } from "node:fs/promises";
import { endWithParent } from "../processes/endWithParent";
import { type Answer, type Asked, type Task, type Tasks } from "./protocol";

type Doing = { readonly [K in Task]: (asked: Tasks[K][0]) => Promise<Tasks[K][1]> };

const DOING: Doing = {
  sheetChecks: async ({ pieces, placings, body, reach, readsMarks, printed }) => {
    const counts = body.pieces.map((p) => p.count);
    const wanted = nestPieces(pieces, counts, body);
    const all = counts.reduce((sum, n) => sum + n, 0);
    return checkSheet(wanted, JSON.parse(placings) as Placing[], body, all, { reach, readsMarks, printed });
  },
  checkProgram: async ({ file, mediaType, machine, passes }) => {
    const bytes = await readFile(file);
    const { count } = runToEnd(checkProgram(bytes, mediaType, machine, passes));
    return { lines: count, sha256: createHash("sha256").update(bytes).digest("hex") };
  },
  resume: async ({ file, machine, at }) => {
    const lines = runToEnd(ProgramLines.of(await readFile(file)));
    return { ...runToEnd(resumeAt(lines, at, machine)), offset: lines.offset(at.line) };
  },
  planAsItLies: async ({ file, job, machine, wish, pose }) => {
    const { program } = runToEnd(planRun(job, machine, wish, (x, y) => posedAt(pose, x, y)));
    await writeFile(file, program.bytes);
    return { mediaType: program.mediaType, passes: program.passes };
  },
  wedgePicture: async ({ file, dotsPerInch }) => {
    const png = runToEnd(writeGrayPng(drawWedge(dotsPerInch), dotsPerInch));
    await writeFile(file, png);
    return { bytes: png.length };
  },
};

const REFUSALS = [MachineError, ProgramError, RouteError];

/** The process that computes what may take long, so that nobody waits for it but who asked. */
process.on("message", ({ task, asked }: Asked) => {
  (DOING[task] as (asked: unknown) => Promise<Tasks[Task][1]>)(asked)
    .then((answer): Answer => ({ answer }))
    .catch((error: Error): Answer =>
      REFUSALS.some((kind) => error instanceof kind)
        ? { refused: error.message }
        : { fault: error.stack ?? error.message },
    )
    .then((reply) => process.send?.(reply))
    .catch(() => process.exit(1));
});
process.on("disconnect", () => process.exit(0));
endWithParent();

import { STAGES, type StageId } from "@hardline/core/stage/stages";
import { artworkFace } from "./artwork/face";
import { blackWhiteFace } from "./blackWhite/face";
import { clearFace } from "./clear/face";
import { colourFace } from "./colour/face";
import { cutLineFace } from "./cutLine/face";
import { type StageFace } from "./face";
import { colourwaysFace } from "./colourways/face";
import { filmsFace } from "./films/face";
import { commentsFace } from "./comments/face";
import { handOverFace } from "./handOver/face";
import { mockUpFace } from "./mockUp/face";
import { historyFace } from "./history/face";
import { sizeFace } from "./size/face";
import { toneFace } from "./tone/face";
import { traceFace } from "./trace/face";
import { transferFace } from "./transfer/face";

/** The faces of every stage there is, and of the rows that are none. */
const FACES: readonly StageFace[] = [
  artworkFace,
  sizeFace,
  clearFace,
  colourFace,
  toneFace,
  traceFace,
  cutLineFace,
  blackWhiteFace,
  filmsFace,
  transferFace,
  mockUpFace,
  colourwaysFace,
  handOverFace,
  historyFace,
  commentsFace,
];

/** A row of the docket. */
export interface Row {
  readonly id: string;
  readonly title: string;
  readonly face: StageFace;
  /** Null for a row that is no stage. */
  readonly stage: StageId | null;
}

/** Rows in the order of work: the stages, then what is none. */
export const ROWS: readonly Row[] = [
  ...STAGES.map(({ id, title }): Row => ({ id, title, stage: id, face: FACES.find((f) => f.id === id)! })),
  ...FACES.filter((f) => STAGES.every((s) => s.id !== f.id)).map((face): Row => ({
    id: face.id,
    title: face.title ?? face.id,
    stage: null,
    face,
  })),
];

export const rowOf = (id: string): Row => ROWS.find((r) => r.id === id)!;

export const titleOf = (stage: StageId): string => rowOf(stage).title;

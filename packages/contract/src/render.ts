import { type Unit } from "@hardline/core/maths/lengthWords";
import { IsIn, IsInt, Max, Min } from "class-validator";
import { MayBeLeftOut } from "./isRead";

/** Asks for the files of a route. */
export class HandOver {
  /** The revision that whoever asks has seen; when the route has another by now, nothing is made. */
  @MayBeLeftOut()
  @IsInt()
  @Min(1)
  @Max(2147483647)
  revision?: number;

  /** The unit of length that the job sheet is written in; millimetres when left out. */
  @MayBeLeftOut()
  @IsIn(["mm", "in"])
  unit?: Unit;
}

export type RenderState = "waiting" | "running" | "done" | "failed";

/** What workers make. */
export type WorkKind = "hand over" | "piece" | "program" | "sheet" | "batch";

export interface RenderFile {
  /** Carries ticket, piece, route and revision. */
  readonly name: string;
  readonly mediaType: string;
  readonly bytes: number;
  readonly sha256: string;
  readonly url: string;
}

/** One hand-over: the files of one revision of a route. */
export interface RenderView {
  readonly id: string;
  /** What is made: the files of a route, a piece for sheets, a machine's program, the files of a sheet, one of a batch. */
  readonly kind: WorkKind;
  /** What a work other than a hand-over came to. */
  readonly outcome: unknown;
  readonly routeId: string;
  readonly revision: number;
  readonly state: RenderState;
  /** 0..1. */
  readonly progress: number;
  /** What is being done, in words. */
  readonly doing: string;
  readonly error: string | null;
  /** Fingerprint of the bitmap's dots; equals the one the bench computes for the same route. */
  readonly dotsSha256: string | null;
  readonly files: readonly RenderFile[];
  readonly zipUrl: string | null;
  readonly createdAt: string;
}

/** RFC 9457 problem details. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly instance?: string;
  /** What was wrong, field by field. */
  readonly errors?: readonly { readonly field: string; readonly message: string }[];
  /** At a conflict: the route as it stands now. */
  readonly current?: unknown;
}

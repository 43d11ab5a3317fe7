export type RenderState = "waiting" | "running" | "done" | "failed";

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

import { readMachine, type Machine } from "@hardline/core/machine/machine";
import { readRunWish, type RunWish } from "@hardline/core/machine/wish";
import { type Rect } from "@hardline/core/raster/types";
import { IsInt, IsObject, IsString, Matches, Max, Min } from "class-validator";
import { IsRead, MayBeLeftOut } from "./isRead";

/** Where a machine listens. */
export class MachineAddress {
  @IsString()
  @Matches(/^[A-Za-z0-9.:-]{1,200}$/)
  host!: string;

  @IsInt()
  @Min(1)
  @Max(65535)
  port!: number;

  /** Of a stand-in: where its shop floor answers. */
  @MayBeLeftOut()
  @IsInt()
  @Min(1)
  @Max(65535)
  floor?: number;
}

export class SaveMachine extends MachineAddress {
  @IsObject()
  @IsRead(readMachine)
  machine!: Machine;

  @IsInt()
  @Min(1)
  @Max(2147483647)
  version!: number;
}

/** Asks for a program, to be looked at before it is sent. */
export class NewRun {
  @IsString()
  @Matches(/^[a-z0-9-]{1,60}$/)
  machine!: string;

  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  routeId?: string;

  /** The revision of the route that whoever asks has seen; when it has another by now, nothing is made. */
  @MayBeLeftOut()
  @IsInt()
  @Min(1)
  @Max(2147483647)
  revision?: number;

  /** In the place of a route: a sheet, and which of its sheets, counted from 1. */
  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  sheetId?: string;

  @MayBeLeftOut()
  @IsInt()
  @Min(1)
  @Max(200)
  sheet?: number;

  @IsObject()
  @IsRead(readRunWish)
  wish!: RunWish;
}

/** Where in its machine's queue a run is to wait. */
export class QueuePlace {
  /** In front of this one; at the end when left out. */
  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  before?: string;
}

export const RUN_STATES = [
  "preparing",
  "ready",
  "queued",
  "running",
  "pausing",
  "paused",
  "stopping",
  "held",
  "done",
  "stopped",
  "failed",
] as const;
export type RunState = (typeof RUN_STATES)[number];
/** Runs that somebody drives: their state is written by whoever drives them, and by nobody else. */
export const AT_WORK = ["running", "pausing", "paused", "stopping"] as const satisfies readonly RunState[];
/** Runs that wait at their machine, or are at work there. */
export const IN_QUEUE = ["queued", ...AT_WORK, "held"] as const satisfies readonly RunState[];

/** What is known of a program before it is sent. */
export interface RunPlanView {
  readonly seconds: number;
  readonly passes: readonly {
    readonly name: string;
    readonly use: string;
    readonly lines: readonly [number, number];
    readonly seconds: number;
    readonly rows?: number;
    readonly paths?: number;
  }[];
  /** In mm from the bed's top left. */
  readonly travels: Rect;
  readonly at: readonly [number, number];
  /** Of the job: a piece, or a sheet. */
  readonly widthMm: number;
  readonly heightMm: number;
  readonly cornersSeconds: number;
  readonly savedMm: number;
  readonly lines: number;
  /** The program's bytes. */
  readonly sha256: string;
  readonly bytes: number;
  readonly mediaType: string;
  /** Of the bitmap that is burned, if there is one. */
  readonly bitmap: {
    readonly width: number;
    readonly height: number;
    readonly dotsPerInch: number;
    readonly sha256: string;
  } | null;
  /** Marks that the machine's registration camera reads before it begins. */
  readonly marks: number;
}

export interface RunView {
  readonly id: string;
  readonly machine: string;
  readonly name: string;
  readonly ticketId: string | null;
  readonly routeId: string | null;
  readonly revision: number | null;
  readonly sheetId: string | null;
  readonly sheet: number | null;
  readonly state: RunState;
  /** While it is prepared, 0..1. */
  readonly progress: number;
  readonly plan: RunPlanView | null;
  readonly wish: RunWish;
  /** Lines of the program that the machine has done. */
  readonly executed: number;
  /** By the machine's own clock. */
  readonly seconds: number | null;
  readonly error: string | null;
  /** What the machine made: whether it is the bitmap dot for dot, and dots that were burned twice. */
  readonly made: { readonly equal: boolean; readonly twice: number } | null;
  /** How the camera found the sheet to lie. */
  readonly camera: {
    readonly turnDegrees: number;
    readonly shiftMm: number;
    readonly used: number;
    readonly of: number;
    readonly offMm: number;
  } | null;
  readonly burnedUrl: string | null;
  readonly programUrl: string | null;
  readonly startedAt: string | null;
  readonly endedAt: string | null;
  readonly createdAt: string;
}

export interface MachineView {
  readonly machine: Machine;
  readonly version: number;
  readonly host: string;
  readonly port: number;
  readonly floor: number | null;
  /** Runs that wait or are at work, in their order. */
  readonly queue: readonly RunView[];
}

import { type RouteChange } from "@hardline/core/route/changes";
import { type Route } from "@hardline/core/route/route";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsNumber,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from "class-validator";
import { MayBeLeftOut } from "./isRead";
import { type ByView } from "./person";

export class RevisionName {
  /** Empty: none any more. */
  @IsString()
  @MaxLength(80)
  name!: string;
}

export class NewApproval {
  /** Who of the customer's said yes, and how. */
  @IsString()
  @MinLength(1)
  @MaxLength(200)
  by!: string;
}

export class NewComment {
  @IsString()
  @MinLength(1)
  @MaxLength(2000)
  text!: string;

  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  routeId?: string;

  /** A place on the artwork, as fractions of its width and height. */
  @MayBeLeftOut()
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(2)
  @IsNumber({}, { each: true })
  @Min(-1, { each: true })
  @Max(2, { each: true })
  at?: [number, number];
}

/** One revision of a route, as its history lists it. */
export interface RevisionView {
  readonly revision: number;
  /** The one that it was made from. */
  readonly parent: number | null;
  readonly at: string;
  readonly by: ByView;
  readonly name: string | null;
  readonly changes: readonly RouteChange[];
  readonly broughtBack: number | null;
  /** The route stands here. */
  readonly stands: boolean;
  readonly handedOver: boolean;
  readonly approvals: readonly ApprovalView[];
  readonly thumbnailUrl: string | null;
  readonly looks: number | null;
  readonly stops: number | null;
}

export interface RevisionsView {
  /** The latest first. */
  readonly revisions: readonly RevisionView[];
  /** The revision before which to ask for more; null when there are none. */
  readonly next: number | null;
  /** Everybody who made one. */
  readonly people: readonly ByView[];
}

export interface OldRouteView {
  readonly revision: number;
  readonly route: Route;
}

export interface ApprovalView {
  readonly id: string;
  readonly routeId: string;
  readonly revision: number;
  /** Of the customer's. */
  readonly who: string;
  /** Who wrote it down. */
  readonly by: ByView;
  readonly at: string;
}

export interface CommentView {
  readonly id: string;
  readonly text: string;
  readonly by: ByView;
  readonly at: string;
  readonly routeId: string | null;
  readonly place: readonly [number, number] | null;
  readonly done: { readonly by: ByView; readonly at: string } | null;
  /** Written by whoever asks. */
  readonly own: boolean;
}

/** Who is at a ticket now, and where its routes stand. */
export interface WatchView {
  readonly people: readonly { readonly id: string; readonly name: string; readonly routeId: string | null }[];
  readonly routes: readonly {
    readonly id: string;
    readonly version: number;
    readonly revision: number;
    readonly by: ByView;
  }[];
  /** Comments that are not done. */
  readonly comments: number;
}

/** Something that was done in the shop. */
export interface DoneView {
  readonly at: string;
  readonly by: ByView;
  readonly words: string;
  readonly subject: string | null;
  readonly ticket: { readonly id: string; readonly number: number; readonly piece: string } | null;
  readonly route: { readonly id: string; readonly name: string } | null;
  readonly revision: number | null;
  readonly runId: string | null;
}

import {
  IsIn,
  IsInt,
  IsISO8601,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from "class-validator";
import { type ArtworkReading } from "@hardline/core/reading/reading";
import { MayBeLeftOut } from "./isRead";
import { OUTPUTS, type Output, type TicketState } from "./constants";

/** What an operator writes on a ticket. Everything may be left out of a change. */
export class TicketChange {
  @MayBeLeftOut()
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  piece?: string;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(120)
  customer?: string;

  /** Day it is due, YYYY-MM-DD; null for none. */
  @IsOptional()
  @IsISO8601({ strict: true })
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  due?: string | null;

  @MayBeLeftOut()
  @IsInt()
  @Min(1)
  @Max(1000000)
  pieces?: number;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(4000)
  note?: string;

  @MayBeLeftOut()
  @IsIn(OUTPUTS)
  output?: Output;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(80)
  material?: string;

  /** What the material or garment looks like: #rrggbb, or empty when nobody said. */
  @MayBeLeftOut()
  @Matches(/^(#[0-9a-f]{6})?$/)
  materialColour?: string;
}

/** A new ticket: an artwork already taken in, and what is known so far. */
export class NewTicket extends TicketChange {
  @IsString()
  @Matches(/^\d{1,18}$/)
  artworkId!: string;

  /** A house route to begin with; a plain one when left out. */
  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  houseRouteId?: string;
}

export interface ArtworkView {
  readonly id: string;
  readonly name: string;
  readonly sha256: string;
  readonly kind: string;
  readonly bytes: number;
  readonly width: number;
  readonly height: number;
  readonly vector: boolean;
  readonly notes: readonly string[];
  /** What was measured on arrival. */
  readonly reading: ArtworkReading | null;
}

/** A large picture that is being taken in. */
export interface ArrivalView {
  readonly id: string;
  readonly name: string;
  readonly state: "waiting" | "running" | "done" | "failed";
  /** 0..1. */
  readonly progress: number;
  /** What is being done, in words. */
  readonly doing: string;
  readonly error: string | null;
  /** Once it is there. */
  readonly artwork: ArtworkView | null;
}

export interface TicketView {
  readonly id: string;
  readonly number: number;
  readonly piece: string;
  readonly customer: string;
  readonly due: string | null;
  readonly pieces: number;
  readonly note: string;
  readonly output: Output;
  readonly material: string;
  readonly materialColour: string;
  readonly state: TicketState;
  /** Checks of the ticket's routes that want a look, or say stop. */
  readonly looks: number;
  readonly stops: number;
  readonly thumbnail: string;
  readonly createdAt: string;
  readonly artwork: ArtworkView;
  readonly routes: readonly RouteSummary[];
}

export interface RouteSummary {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
}

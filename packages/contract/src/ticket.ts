import {
  IsArray,
  ArrayMaxSize,
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
import { PAGE_BOXES, type PageBox, type TicketState } from "./constants";
import { ticketFields, type TicketField, type TicketFields } from "./ticketFields";

/** What an operator writes on a ticket. Everything may be left out of a change. */
// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging -- its fields and their rules come of the table
export class TicketChange {}
// eslint-disable-next-line @typescript-eslint/no-unsafe-declaration-merging, @typescript-eslint/no-empty-object-type
export interface TicketChange extends Partial<TicketFields> {}

/** The rules of a field. */
function rulesOf(field: TicketField): PropertyDecorator[] {
  switch (field.kind) {
    case "text":
      return [MayBeLeftOut(), IsString(), MinLength(field.least), MaxLength(field.most)];
    case "note":
      return [MayBeLeftOut(), IsString(), MaxLength(field.most)];
    case "day":
      return [IsOptional(), IsISO8601({ strict: true }), Matches(/^\d{4}-\d{2}-\d{2}$/)];
    case "count":
      return [MayBeLeftOut(), IsInt(), Min(field.least), Max(field.most)];
    case "choice":
      return [MayBeLeftOut(), IsIn(field.of)];
    case "colour":
      return [MayBeLeftOut(), Matches(/^(#[0-9a-f]{6})?$/)];
  }
}
for (const [name, field] of ticketFields())
  for (const rule of rulesOf(field)) rule(TicketChange.prototype, name);

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

/** A page to be taken as an artwork of its own. */
export class ChosenPage {
  @IsInt()
  @Min(1)
  @Max(5000)
  page!: number;

  @IsIn(PAGE_BOXES)
  box!: PageBox;

  /** Names of the layers that are drawn; left out, those that the file shows, but for what is cut along. */
  @MayBeLeftOut()
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(300, { each: true })
  layers?: string[];
}

/** A layer of a page. */
export interface PageLayer {
  readonly name: string;
  /** It is drawn, where nothing else is asked for. */
  readonly drawn: boolean;
  /** It is what is cut along. */
  readonly cut: boolean;
}

/** A page, or a picture of a file that has several, as it may be chosen. */
export interface PageView {
  /** What such a part of the file is called. */
  readonly called: "page" | "frame" | "picture";
  readonly page: number;
  /** How many pixels it has, across and down; none for what is made of shapes. */
  readonly pixels?: readonly [width: number, height: number];
  /** What each of its edges encloses, in millimetres. */
  readonly boxes: readonly { readonly box: PageBox; readonly widthMm: number; readonly heightMm: number }[];
  /** Layers that something on it is on. */
  readonly layers: readonly PageLayer[];
}

/** Paths of an artwork that belong together: of one layer, one colour, and painted alike. */
export interface PathGroup {
  /** What it is called where one is chosen. */
  readonly name: string;
  readonly layer: string | null;
  /** "#rrggbb" */
  readonly colour: string;
  readonly painted: "filled" | "lined";
  readonly closed: number;
  readonly open: number;
  /** The file itself says that it is cut along. @see ISO 19593-1, processing steps */
  readonly cutting: boolean;
  /** SVG path data in mm from the artwork's upper left. */
  readonly d: string;
}

/** The paths that an artwork made of shapes has of its own. */
export interface ArtworkPaths {
  readonly widthMm: number;
  readonly heightMm: number;
  /** Those that are cut along first, then those with most closed paths. */
  readonly groups: readonly PathGroup[];
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
  /** The page of the file that it is, from 1, of so many, and the edge that counts. */
  readonly page: number;
  readonly pages: number;
  readonly box: PageBox;
  /** Edges that the page has. */
  readonly boxes: readonly PageBox[];
  /** Layers of the page; `drawn` are those that the artwork shows. */
  readonly layers: readonly PageLayer[];
  /** How wide it is in truth, where the file says so. */
  readonly widthMm: number | null;
  readonly notes: readonly string[];
  /** What was measured on arrival; null in a list. */
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

export interface TicketView extends Readonly<TicketFields> {
  readonly id: string;
  readonly number: number;
  readonly state: TicketState;
  /** Checks of the ticket's routes that want a look, or say stop. */
  readonly looks: number;
  readonly stops: number;
  readonly thumbnail: string;
  readonly createdAt: string;
  /** Null where nobody is written on it. */
  readonly customerId: string | null;
  readonly artwork: ArtworkView;
  readonly routes: readonly RouteSummary[];
}

export interface RouteSummary {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
}

/** A stretch of the board in the order asked for. */
export interface TicketsView {
  readonly tickets: readonly TicketView[];
  /** Where the next stretch begins, to be asked for by; null when there is none. */
  readonly next: string | null;
}

/** How many tickets are in each state, of all that a search finds. */
export type TicketCounts = Readonly<Record<TicketState, number>>;

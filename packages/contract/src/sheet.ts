import { type Check } from "@hardline/core/inspect/check";
import { type Placing } from "@hardline/core/sheet/arrangement";
import { readPlacings, readRevisions, readSheetBody, type SheetBody } from "@hardline/core/sheet/sheetFile";
import { IsInt, IsObject, IsString, Max, MaxLength, Min, MinLength } from "class-validator";
import { IsRead, MayBeLeftOut } from "./isRead";

export class NewSheet {
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  name!: string;

  @IsObject()
  @IsRead(readSheetBody)
  body!: SheetBody;
}

export class SaveSheet extends NewSheet {
  @IsInt()
  @Min(1)
  @Max(2147483647)
  version!: number;

  /** Where copies lie; of the revisions of their routes that are named. */
  @MayBeLeftOut()
  @IsRead(readPlacings)
  placings?: Placing[];

  @MayBeLeftOut()
  @IsRead(readRevisions)
  revisions?: Record<string, number>;
}

/** What of a route goes on sheets. */
export interface PieceView {
  readonly name: string;
  /** x, y of every corner, in mm from the finish's top left. */
  readonly outline: readonly number[];
  readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly dotsPerInch: number | null;
  readonly printed: boolean;
  readonly pictureUrl: string;
  /** Where the picture lies, in mm. */
  readonly picture: {
    readonly xMm: number;
    readonly yMm: number;
    readonly widthMm: number;
    readonly heightMm: number;
  };
}

export interface SheetPieceView {
  readonly routeId: string;
  readonly ticketId: string;
  readonly ticket: number;
  readonly piece: string;
  readonly material: string;
  readonly route: string;
  readonly revision: number;
  /** Pieces that the ticket asks for. */
  readonly wanted: number;
}

export interface SheetView {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly body: SheetBody;
  /** In a list of sheets left out: `placed` and `sheets` say how many there are. */
  readonly placings: readonly Placing[];
  readonly placed: number;
  readonly sheets: number;
  readonly revisions: Readonly<Record<string, number>>;
  readonly pieces: readonly SheetPieceView[];
  readonly checks: readonly Check[];
  readonly createdAt: string;
}

import { readRoute, type Route } from "@hardline/core/route/route";
import { IsInt, IsObject, IsString, Matches, Max, MaxLength, Min } from "class-validator";
import { IsRead, MayBeLeftOut } from "./isRead";

/** A route as in a route file; what is wrong with it is said in the words of docs/route-file.md. */
export const IsRoute = () => IsRead(readRoute);

/** The largest whole number the tables keep. */
const MOST_VERSION = 2147483647;

/** Every change of a route names the version it was made on; see RouteView. */
export class OnVersion {
  @IsInt()
  @Min(1)
  @Max(MOST_VERSION)
  version!: number;
}

export class SaveRoute extends OnVersion {
  @IsObject()
  @IsRoute()
  route!: Route;
}

export class NewRoute {
  @IsObject()
  @IsRoute()
  route!: Route;
}

/** What the bench found for a revision; the board shows it. */
export class Findings {
  @IsInt()
  @Min(1)
  @Max(MOST_VERSION)
  revision!: number;

  @IsInt()
  @Min(0)
  @Max(1000)
  looks!: number;

  @IsInt()
  @Min(0)
  @Max(1000)
  stops!: number;

  /** Small picture of the result: PNG, base64. */
  @MayBeLeftOut()
  @IsString()
  @MaxLength(400000)
  @Matches(/^[A-Za-z0-9+/=]*$/)
  thumbnail?: string;
}

/**
 * A route as it stands. `revision` says which of its revisions is shown; `version` counts every change of
 * that, undo and redo too, so that two operators never overwrite each other without knowing.
 */
export interface RouteView {
  readonly id: string;
  readonly ticketId: string;
  readonly version: number;
  readonly revision: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly savedAt: string;
  readonly route: Route;
}

import { type Route } from "@hardline/core/route/route";
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsObject,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from "class-validator";
import { IsRoute } from "./route";

/** A route that the shop keeps to start other tickets from. */
export class NewHouseRoute {
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  name!: string;

  @IsObject()
  @IsRoute()
  route!: Route;
}

export interface HouseRouteView {
  readonly id: string;
  readonly name: string;
  readonly route: Route;
  readonly createdAt: string;
}

/** A test strip that is kept on a ticket, as a bitmap that can be burned or printed on a scrap. */
export class NewStrip {
  @IsString()
  @Matches(/^\d{1,18}$/)
  routeId!: string;

  @IsInt()
  @Min(1)
  @Max(2147483647)
  revision!: number;

  /** What was spread out, in words. */
  @IsString()
  @MinLength(1)
  @MaxLength(200)
  title!: string;

  /** What each variant was set to. */
  @IsArray()
  @ArrayMaxSize(9)
  @IsString({ each: true })
  @MaxLength(120, { each: true })
  labels!: string[];

  /** The test piece: 1-bit PNG, base64. */
  @IsString()
  @MaxLength(4000000)
  @Matches(/^[A-Za-z0-9+/=]+$/)
  picture!: string;
}

export interface StripView {
  readonly id: string;
  readonly routeId: string;
  readonly revision: number;
  readonly title: string;
  readonly labels: readonly string[];
  readonly pictureUrl: string;
  readonly createdAt: string;
}

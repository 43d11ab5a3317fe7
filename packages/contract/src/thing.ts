import { readPhotoThing, type PhotoThing } from "@hardline/core/stage/mockUp/settings";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsNumber,
  IsObject,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from "class-validator";
import { IsRead, MayBeLeftOut } from "./isRead";

/** A photograph of a thing is an artwork that was taken in. */
export class NewPhoto {
  @IsString()
  @Matches(/^\d{1,18}$/)
  artworkId!: string;

  /** The ticket that it was sent for: it is that customer's own then. */
  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  ticketId?: string;
}

/** A photograph that things can be shown on. */
export interface PhotoView {
  /** As routes name it: the SHA-256 of its file. */
  readonly key: string;
  readonly artworkId: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

/** One of the shop's own things: a photograph, and how it is to be read. */
export class NewThing {
  @IsString()
  @MinLength(1)
  @MaxLength(60)
  name!: string;

  @IsObject()
  @IsRead(readPhotoThing)
  thing!: PhotoThing;
}

export interface ThingView {
  readonly id: string;
  readonly name: string;
  readonly thing: PhotoThing;
}

/** A place for prints that the shop uses often: the middle of the upper edge, in mm from an area's origin. */
export class NewPlace {
  @IsString()
  @MinLength(1)
  @MaxLength(60)
  name!: string;

  /** The area that it is on, by name. */
  @IsString()
  @MinLength(1)
  @MaxLength(60)
  area!: string;

  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(2)
  @IsNumber({}, { each: true })
  @Min(-20000, { each: true })
  @Max(20000, { each: true })
  at!: [number, number];
}

export interface PlaceView extends NewPlace {
  readonly id: string;
}

import "reflect-metadata";
import { Type } from "class-transformer";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsOptional,
  IsString,
  Matches,
  MaxLength,
  MinLength,
  ValidateNested,
} from "class-validator";

/** One picture of a batch, or one line of a table. */
export class NewBatchItem {
  @IsString()
  @MinLength(1)
  @MaxLength(200)
  name!: string;

  @IsOptional()
  @IsString()
  @Matches(/^\d{1,18}$/)
  artworkId?: string;

  /** Set in the shipped font and run as paths, in the place of a picture, or with it. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  text?: string;
}

export class NewBatch {
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  name!: string;

  @IsString()
  @Matches(/^\d{1,18}$/)
  houseRouteId!: string;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => NewBatchItem)
  items!: NewBatchItem[];
}

export interface BatchItemView {
  readonly id: string;
  readonly name: string;
  readonly state: "waiting" | "running" | "done" | "failed" | "stopped";
  readonly progress: number;
  readonly error: string | null;
  readonly attempts: number;
  readonly files: number;
  readonly zipUrl: string | null;
}

export interface BatchView {
  readonly id: string;
  readonly name: string;
  readonly route: string;
  readonly stopped: boolean;
  readonly counts: Readonly<Record<BatchItemView["state"], number>>;
  readonly seconds: number | null;
  readonly createdAt: string;
}

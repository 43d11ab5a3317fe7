import { RouteError } from "@hardline/core/settings/errors";
import {
  IsArray,
  IsInt,
  IsISO8601,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
} from "class-validator";
import { IsRead, MayBeLeftOut, NAME_RULE, PLAIN_NAME } from "./isRead";
import { type ApprovalView } from "./history";
import { type TicketView } from "./ticket";

/** A name begins and ends with something to be seen. */
const IsCustomerName = (): PropertyDecorator => (target, key) => {
  IsString()(target, key);
  MaxLength(120)(target, key);
  Matches(PLAIN_NAME, { message: NAME_RULE })(target, key);
};

/** What a shop writes down of a customer, besides the name. */
class CustomerDetails {
  @MayBeLeftOut()
  @IsString()
  @MaxLength(200)
  email?: string;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(80)
  phone?: string;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(500)
  address?: string;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(4000)
  note?: string;
}

export class CustomerChange extends CustomerDetails {
  @MayBeLeftOut()
  @IsCustomerName()
  name?: string;
}

export class NewCustomer extends CustomerDetails {
  @IsCustomerName()
  name!: string;
}

/** Words of a route that are others this time. */
export interface OtherWords {
  readonly was: string;
  readonly now: string;
}

const [MOST_WORDS, MOST_LETTERS] = [50, 500];

/** @throws RouteError that says what is wrong with a list of other words */
export function readOtherWords(value: unknown): readonly OtherWords[] {
  if (!Array.isArray(value) || value.length > MOST_WORDS)
    throw new RouteError("words", "words", value, `a list of at most ${MOST_WORDS}`);
  value.forEach((entry: unknown, k) => {
    const { was, now, ...more } = (entry ?? {}) as Record<string, unknown>;
    for (const [name, words] of Object.entries({ was, now }))
      if (typeof words !== "string" || words.length > MOST_LETTERS)
        throw new RouteError("words", `${k}.${name}`, words, `at most ${MOST_LETTERS} letters`);
    if (Object.keys(more).length > 0) throw new RouteError("words", `${k}`, entry, "was and now");
  });
  return value as readonly OtherWords[];
}

/** What is different when an old ticket is ordered again. */
export class OrderAgain {
  @MayBeLeftOut()
  @IsInt()
  @Min(1)
  @Max(1000000)
  pieces?: number;

  @IsOptional()
  @IsISO8601({ strict: true })
  @Matches(/^\d{4}-\d{2}-\d{2}$/)
  due?: string | null;

  @MayBeLeftOut()
  @Matches(/^(#[0-9a-f]{6})?$/)
  materialColour?: string;

  @MayBeLeftOut()
  @IsString()
  @MaxLength(4000)
  note?: string;

  @MayBeLeftOut()
  @IsArray()
  @IsRead(readOtherWords)
  words?: readonly OtherWords[];

  /** Name of the colourway that alone is handed over; all that were when left out. */
  @MayBeLeftOut()
  @IsString()
  @MaxLength(40)
  colourway?: string;
}

export interface CustomerView {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly phone: string;
  readonly address: string;
  readonly note: string;
  readonly tickets: number;
  /** When the last of their tickets was begun. */
  readonly lastAt: string | null;
  readonly createdAt: string;
}

export interface CustomersView {
  readonly customers: readonly CustomerView[];
  readonly next: string | null;
  readonly count: number;
}

/** All that a customer's page shows, besides a long list of tickets. */
export interface CustomerRecord extends CustomerView {
  readonly artworks: readonly {
    readonly id: string;
    readonly name: string;
    readonly thumbnail: string;
    readonly ticketId: string;
    readonly number: number;
  }[];
  /** Their own photographs of things. */
  readonly photos: readonly { readonly key: string; readonly artworkId: string; readonly name: string }[];
  readonly approvals: readonly (ApprovalView & {
    readonly ticketId: string;
    readonly number: number;
    readonly piece: string;
  })[];
}

/** What of a ticket may be changed when it is ordered again. */
export interface OrderAgainView {
  readonly ticket: TicketView;
  readonly words: readonly string[];
  readonly colourways: readonly string[];
}

/** What was removed for good, told once. */
export interface ReceiptView {
  readonly customerId: string;
  readonly name: string;
  readonly at: string;
  readonly by: string;
  readonly tickets: readonly number[];
  readonly routes: number;
  readonly revisions: number;
  readonly artworks: readonly { readonly name: string; readonly sha256: string }[];
  readonly photos: number;
  readonly files: number;
  readonly runs: number;
  readonly comments: number;
  readonly approvals: number;
  /** Sheets that pieces were taken from, and that went with their last piece. */
  readonly sheets: readonly string[];
  readonly blobs: number;
  readonly bytes: number;
}

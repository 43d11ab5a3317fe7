import { RouteError } from "@hardline/core/settings/errors";
import { IsString, Matches, MaxLength, MinLength } from "class-validator";
import { IsRead, MayBeLeftOut } from "./isRead";

/**
 * One picture of a batch, or one line of a table: a picture, or words set in the shipped font and run as paths, or both; and
 * what the route's fields are filled with.
 */
export interface NewBatchItem {
  readonly name: string;
  readonly artworkId?: string;
  readonly text?: string;
  readonly fields?: Readonly<Record<string, string>>;
}

/** Columns of a table that an item may have, letters of a name and of a value. */
const [MOST_FIELDS, FIELD_NAME, FIELD_VALUE] = [40, 40, 500];

export const MOST_BATCH_ITEMS = 5000;

/** What a field of an item may be; nothing else may be there. */
const FIELDS: Readonly<Record<string, readonly [is: (value: string) => boolean, allowed: string]>> = {
  name: [(v) => v.length >= 1 && v.length <= 200, "a text of 1 to 200 letters"],
  artworkId: [(v) => /^\d{1,18}$/.test(v), "digits"],
  text: [(v) => v.trim().length >= 1 && v.length <= 200, "a text of 1 to 200 letters, not blanks alone"],
};

/**
 * Items of a batch, looked at one by one in plain code: there may be thousands.
 * @throws RouteError that names the item, its field, the value and what is allowed
 */
export function readBatchItems(json: unknown): NewBatchItem[] {
  const refuse = (setting: string, value: unknown, allowed: string): never => {
    throw new RouteError("batch", setting, value, allowed);
  };
  if (!Array.isArray(json) || json.length < 1 || json.length > MOST_BATCH_ITEMS)
    return refuse("items", Array.isArray(json) ? json.length : json, `a list of 1 to ${MOST_BATCH_ITEMS}`);
  for (const [k, item] of json.entries()) {
    if (typeof item !== "object" || item === null || Array.isArray(item))
      return refuse(`items[${k}]`, item, "an object with a name, and artworkId or text");
    for (const [field, value] of Object.entries(item as object)) {
      if (field === "fields") {
        readFields(value, (at, given, allowed) => refuse(`items[${k}].fields${at}`, given, allowed));
        continue;
      }
      const known = Object.hasOwn(FIELDS, field) ? FIELDS[field] : undefined;
      if (!known) return refuse(`items[${k}].${field}`, value, [...Object.keys(FIELDS), "fields"].join(", "));
      if (typeof value !== "string" || !known[0](value))
        return refuse(`items[${k}].${field}`, value, known[1]);
    }
    const { name, artworkId, text } = item as Partial<NewBatchItem>;
    if (name === undefined) return refuse(`items[${k}].name`, name, FIELDS.name[1]);
    if (artworkId === undefined && text === undefined)
      return refuse(`items[${k}]`, item, "with artworkId, text, or both");
  }
  return json as NewBatchItem[];
}

function readFields(value: unknown, refuse: (at: string, value: unknown, allowed: string) => never): void {
  if (typeof value !== "object" || value === null || Array.isArray(value))
    return refuse("", value, "an object of texts by columns' names");
  const entries = Object.entries(value as object);
  if (entries.length > MOST_FIELDS) return refuse("", entries.length, `${MOST_FIELDS} columns at most`);
  for (const [name, text] of entries) {
    if (name.length > FIELD_NAME) return refuse(`.${name}`, name, `a name of ${FIELD_NAME} letters at most`);
    if (typeof text !== "string" || text.length > FIELD_VALUE)
      return refuse(`.${name}`, text, `a text of ${FIELD_VALUE} letters at most`);
  }
}

export class NewBatch {
  @IsString()
  @MinLength(1)
  @MaxLength(120)
  name!: string;

  /** The house route that is run, or, without one, a route of a ticket as it stands. */
  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  houseRouteId?: string;

  @MayBeLeftOut()
  @IsString()
  @Matches(/^\d{1,18}$/)
  routeId?: string;

  @IsRead(readBatchItems)
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

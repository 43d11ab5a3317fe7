import "reflect-metadata";
import { RouteError } from "@hardline/core/settings/errors";
import { registerDecorator, ValidateIf } from "class-validator";

/** What is wrong with a value, in the words of whoever reads it; null when nothing is. */
function faultOf(read: (value: unknown) => unknown, value: unknown): string | null {
  try {
    read(value);
    return null;
  } catch (error) {
    if (error instanceof RouteError) return error.message;
    throw error;
  }
}

/** Something that core reads: what is wrong with it is said in core's own words. */
export function IsRead(read: (value: unknown) => unknown) {
  return (target: object, propertyName: string): void =>
    registerDecorator({
      name: "isRead",
      target: target.constructor,
      propertyName,
      validator: {
        validate: (value) => faultOf(read, value) === null,
        defaultMessage: (about) => faultOf(read, about?.value) ?? "",
      },
    });
}

/** What begins and ends with something to be seen, and has no letter that is none: a line's end, a turn of direction. */
export const PLAIN_NAME = /^[^\s\p{C}](?:[^\p{C}]*[^\s\p{C}])?$/u;
export const NAME_RULE =
  "name must neither begin nor end with a blank, and have only letters that are seen, on one line";

/** Left out is fine; null is not, where there is nothing it could mean. */
export const MayBeLeftOut = (): PropertyDecorator => ValidateIf((_object, value) => value !== undefined);

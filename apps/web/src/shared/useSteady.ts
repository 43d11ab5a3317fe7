import { canonical } from "@hardline/core/settings/canonical";
import { useMemo } from "react";

/** The first of equal values: a new object with the same content is not a change. */
export function useSteady<T>(value: T): T {
  const text = canonical(value);
  return useMemo(() => JSON.parse(text) as T, [text]);
}

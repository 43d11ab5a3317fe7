import { z } from "zod";
import { METHOD_SETTINGS, METHODS } from "../../dots/methods";

const allowed = METHODS.map((m) => `"${m.id}"`).join(", ");

export const blackWhiteSettings = z.preprocess(
  // The method may be left out; scatter is what most pictures want.
  (input) => (isPlainObject(input) && !("method" in input) ? { method: "scatter", ...input } : input),
  z.discriminatedUnion("method", METHOD_SETTINGS, {
    error: (issue) => (issue.code === "invalid_union" ? allowed : undefined),
  }),
);

function isPlainObject(value: unknown): value is object {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

export type BlackWhiteSettings = z.output<typeof blackWhiteSettings>;

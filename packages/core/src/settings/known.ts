import { z } from "zod";

/**
 * A schema that takes what it gave before as it is. Settings never change, so a value that was checked once is right for
 * good: a route with thousands of strokes costs no more to change than one with none.
 */
export function known<T extends object>(schema: z.ZodType<T>): z.ZodType<T> & { readonly behind: z.ZodType } {
  const checked = new WeakSet<object>();
  const knowing = z.unknown().transform((value, context): T => {
    if (typeof value === "object" && value !== null && checked.has(value)) return value as T;
    const read = schema.safeParse(value);
    if (read.success) {
      checked.add(read.data);
      return read.data;
    }
    context.issues.push(...(read.error.issues as (typeof context.issues)[number][]));
    return z.NEVER;
  });
  return Object.assign(knowing as unknown as z.ZodType<T>, { behind: schema });
}

import { type z } from "zod";

/** What may be set at one place of a stage's settings. */
export type Kind =
  | { readonly kind: "number"; readonly least: number; readonly most: number; readonly whole: boolean }
  | { readonly kind: "choice"; readonly options: readonly (string | number | boolean)[] }
  | { readonly kind: "curve" }
  | { readonly kind: "fixed" };

/** As much as is needed of what a schema says of itself. */
interface Def {
  readonly type: string;
  readonly innerType?: Schema;
  readonly out?: Schema;
  readonly in?: Schema;
  readonly shape?: Readonly<Record<string, Schema>>;
  readonly options?: readonly Schema[];
  readonly element?: Schema;
  readonly items?: readonly Schema[];
  readonly values?: readonly unknown[];
  readonly entries?: Readonly<Record<string, string>>;
}
interface Schema {
  readonly def: Def;
  /** What `known` stands before. */
  readonly behind?: Schema;
  readonly minValue?: number | null;
  readonly maxValue?: number | null;
  readonly format?: string | null;
  readonly isInt?: boolean;
  safeParse(value: unknown): { readonly success: boolean };
}

/** A schema without its defaults and what stands around it. */
function bare(schema: Schema): Schema {
  if (schema.behind) return bare(schema.behind);
  const { innerType, out } = schema.def;
  if (innerType) return bare(innerType);
  return schema.def.type === "pipe" && out ? bare(out) : schema;
}

/** The schema of what lies at a place, where the settings are as they are; null where there is nothing. */
function schemaAt(schema: Schema, value: unknown, path: readonly string[]): Schema | null {
  const own = bare(schema);
  const { type, options, shape, element, items } = own.def;
  if (type === "union" && options) {
    if (path.length === 0 && options.every((o) => bare(o).def.type === "literal")) return own;
    const fits = options.find((o) => bare(o).safeParse(value).success);
    return fits ? schemaAt(fits, value, path) : null;
  }
  if (path.length === 0) return own;
  const [key, ...rest] = path;
  const inner = shape?.[key] ?? items?.[Number(key)] ?? element;
  return inner ? schemaAt(inner, (value as Record<string, unknown> | undefined)?.[key], rest) : null;
}

const isCurve = (value: unknown): boolean =>
  Array.isArray(value) && value.length > 1 && value.every((p) => Array.isArray(p) && p.length === 2);

/** What may be set at a place of settings. */
export function kindAt(settings: z.ZodType, value: unknown, path: readonly string[]): Kind {
  const schema = schemaAt(settings as unknown as Schema, value, path);
  let at: unknown = value;
  for (const key of path) at = (at as Record<string, unknown> | undefined)?.[key];
  if (!schema) return { kind: "fixed" };
  const { type, entries, values, options } = schema.def;
  if (type === "enum") return { kind: "choice", options: Object.values(entries!) };
  if (type === "boolean") return { kind: "choice", options: [false, true] };
  if (type === "union" && options?.every((o) => bare(o).def.type === "literal"))
    return { kind: "choice", options: options.flatMap((o) => bare(o).def.values as (string | number)[]) };
  if (type === "literal" && values && values.length > 1)
    return { kind: "choice", options: values as (string | number)[] };
  if (type === "array" && isCurve(at)) return { kind: "curve" };
  if (type === "number")
    return {
      kind: "number",
      least: schema.minValue ?? -Infinity,
      most: schema.maxValue ?? Infinity,
      whole: schema.format === "safeint" || schema.isInt === true,
    };
  // What is checked by a function of its own is a number where it has one.
  if (type === "custom" && typeof at === "number")
    return {
      kind: "number",
      least: Number.isInteger(at) ? 1 : -Infinity,
      most: Infinity,
      whole: Number.isInteger(at),
    };
  return { kind: "fixed" };
}

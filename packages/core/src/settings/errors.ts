import { type z } from "zod";

/** A route that cannot be run: which stage and setting, the value it has, and what is allowed. */
export class RouteError extends Error {
  constructor(
    readonly stage: string,
    readonly setting: string,
    readonly value: unknown,
    readonly allowed: string,
  ) {
    super(`${stage}: ${setting} is ${show(value)}; allowed: ${allowed}`);
    this.name = "RouteError";
  }
}

function show(value: unknown): string {
  if (value === undefined) return "missing";
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 80 ? `${text.slice(0, 77)}...` : text;
}

/** Says in our words what a schema found wrong first. */
export function routeErrorOf(stage: string, error: z.core.$ZodError, input: unknown): RouteError {
  const issue = deepest(error.issues[0]);
  const path = issue.path.map(String);
  let value: unknown = input;
  for (const key of path) value = (value as Record<string, unknown> | undefined)?.[key];
  if (issue.code === "unrecognized_keys") {
    const key = issue.keys[0];
    const inside = path.length ? `${path.join(".")}.${key}` : key;
    return new RouteError(
      stage,
      inside,
      (value as Record<string, unknown>)?.[key],
      "only the settings that docs/route-file.md lists",
    );
  }
  return new RouteError(stage, path.join(".") || "settings", value, allowedBy(issue));
}

/** Of a choice between shapes, the complaint of the shape that came furthest. */
function deepest(issue: z.core.$ZodIssue): z.core.$ZodIssue {
  if (issue.code !== "invalid_union") return issue;
  const inner = issue.errors
    .map((issues) => issues[0])
    .filter((i) => i !== undefined)
    .sort((a, b) => b.path.length - a.path.length)[0];
  if (!inner || inner.path.length === 0) return issue; // the choice itself says what it allows
  const found = deepest(inner);
  return { ...found, path: [...issue.path, ...found.path] } as z.core.$ZodIssue;
}

function allowedBy(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case "too_small":
      return `${issue.origin === "array" ? "at least " : issue.inclusive ? "" : "above "}${issue.minimum}${issue.origin === "array" ? " entries" : issue.inclusive ? " or more" : ""}`;
    case "too_big":
      return `${issue.origin === "array" ? "at most " : issue.inclusive ? "" : "below "}${issue.maximum}${issue.origin === "array" ? " entries" : issue.inclusive ? " or less" : ""}`;
    case "invalid_value":
      return issue.values.map((v) => JSON.stringify(v)).join(", ");
    case "invalid_type":
      return issue.expected === "int" ? "a whole number" : `a ${issue.expected}`;
    default:
      return issue.message;
  }
}

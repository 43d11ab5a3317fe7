import { fingerprint } from "../raster/fingerprint";

/** JSON with keys in alphabetical order, so that equal values have equal text. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === "object" && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
}

const lastKeys = new WeakMap<object, { readonly of: string; readonly key: string }>();

/**
 * Names the result of a stage: the hash of its settings and of the keys of what it takes in. Settings never change,
 * so the last key made with them is remembered: strokes of a long morning are hashed once, not at every move.
 */
export function stageKey(id: string, settings: object, taken: readonly string[]): string {
  const of = `${id} ${taken.join(" ")}`;
  const last = lastKeys.get(settings);
  if (last?.of === of) return last.key;
  const key = fingerprint(canonical([id, settings, taken.join(" ")]));
  lastKeys.set(settings, { of, key });
  return key;
}

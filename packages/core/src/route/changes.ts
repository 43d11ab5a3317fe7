import { figure } from "../inspect/check";
import { canonical } from "../settings/canonical";
import { stageById, STAGES, type StageId } from "../stage/stages";
import { settingsOf, type Route } from "./route";

/** What of a route changed: one line of its history. */
export interface RouteChange {
  /** The stage; "route" for what belongs to the whole of it. */
  readonly stage: StageId | "route";
  /** As "border 2 mm, was 0". */
  readonly words: string;
}

/** One change is told in so many letters at most; so many of them. */
const [MOST_LETTERS, MOST_CHANGES] = [160, 40];

/**
 * What is different in a route from how it was, in words, in the order of the stages.
 * Lengths are in millimetres, as settings have them.
 */
export function changesBetween(was: Route, now: Route): RouteChange[] {
  const changes: RouteChange[] = [
    ...ofObjects({ name: was.name, material: was.material }, { name: now.name, material: now.material }),
    ...ofLists("colourways", was.colourways, now.colourways),
    ...ofObjects(was.checks, now.checks, "checks"),
  ].map((words) => ({ stage: "route" as const, words }));
  for (const { id, always } of STAGES) {
    if (always) continue;
    const [before, after] = [settingsOf(was, id), settingsOf(now, id)];
    if (before === after) continue;
    const words =
      before && after ? ofObjects(before, after, "", id) : before ? ["left out"] : after ? ["put in"] : [];
    changes.push(...words.map((w) => ({ stage: id, words: w })));
  }
  return changes.slice(0, MOST_CHANGES).map((c) => ({ ...c, words: short(c.words) }));
}

const short = (text: string): string =>
  text.length > MOST_LETTERS ? `${text.slice(0, MOST_LETTERS - 1)}…` : text;

type Plain = Readonly<Record<string, unknown>>;

/** Settings are told one by one, those within others by both names. */
function ofObjects(was: object, now: object, within = "", stage?: StageId): string[] {
  const keys = [...new Set([...Object.keys(was), ...Object.keys(now)])];
  return keys.flatMap((key) => {
    const [before, after] = [(was as Plain)[key], (now as Plain)[key]];
    if (before === after || canonical(before ?? null) === canonical(after ?? null)) return [];
    const path = within ? `${within}.${key}` : key;
    if (isPlain(before) && isPlain(after)) return ofObjects(before, after, path, stage);
    if (isList(before) || isList(after)) return ofLists(path, listOf(before), listOf(after), stage);
    return [ofValues(path, before, after, stage)];
  });
}

const isPlain = (value: unknown): value is Plain =>
  typeof value === "object" && value !== null && !Array.isArray(value);
const isList = (value: unknown): value is readonly unknown[] => Array.isArray(value);
const listOf = (value: unknown): readonly unknown[] => (isList(value) ? value : []);

/** Of a list it is told what came, what went and what is another: by what its entries call themselves, or by their number. */
function ofLists(path: string, was: readonly unknown[], now: readonly unknown[], stage?: StageId): string[] {
  const [before, after] = [was.map((v) => canonical(v)), now.map((v) => canonical(v))];
  if (before.length === after.length && before.every((text, k) => text === after[k])) return [];
  const { label } = labelOf(path, stage);
  const [first] = [...now, ...was];
  // Places and curves: figures that say nothing to anybody.
  if (!isPlain(first)) {
    const plain = now.every((v) => typeof v === "string") && now.length > 0 && now.length < 5;
    return [plain ? `${label} ${now.join(", ")}` : `${label} changed`];
  }
  const [kept, left] = [new Set(before), new Set(after)];
  const came = now.filter((_, k) => !kept.has(after[k])).map(nameOf);
  const went = was.filter((_, k) => !left.has(before[k])).map(nameOf);
  if (came.length === 0 && went.length === 0) return [`${label} in another order`];
  const changed = came.filter((name) => takeOut(went, name));
  const both = [...changed];
  const added = came.filter((name) => !takeOut(both, name));
  return [
    ...(changed.length > 0 ? [`${label}: ${counted(changed)} changed`] : []),
    ...(added.length > 0 ? [`${label}: ${counted(added)} added`] : []),
    ...(went.length > 0 ? [`${label}: ${counted(went)} taken away`] : []),
  ];
}

const countOf = (list: readonly string[], name: string): number => list.filter((n) => n === name).length;

/** Takes one of that name out of a list. @returns whether there was one */
function takeOut(list: string[], name: string): boolean {
  const at = list.indexOf(name);
  if (at >= 0) list.splice(at, 1);
  return at >= 0;
}

/** "pick, 3 strokes": each name once, with how often it stands there. */
function counted(names: readonly string[]): string {
  return [...new Set(names)]
    .map((name) => (countOf(names, name) > 1 ? `${countOf(names, name)} × ${name}` : name))
    .join(", ");
}

/** What an entry of a list calls itself. */
function nameOf(entry: unknown): string {
  const { op, edit, text, name, thing, kind } = entry as Plain;
  if (edit === "text" && typeof text === "string") return `words “${text.slice(0, 40)}”`;
  for (const own of [op, edit, name, thing, kind]) if (typeof own === "string") return inWords(own);
  return "entry";
}

function ofValues(path: string, was: unknown, now: unknown, stage?: StageId): string {
  const { label, unit } = labelOf(path, stage);
  if (isPlain(now) || isPlain(was)) return `${label} ${now === undefined ? "off" : "on"}`;
  const value = (v: unknown, withUnit: boolean): string => {
    if (v === undefined || v === null) return "none";
    if (typeof v === "boolean") return v ? "on" : "off";
    if (typeof v === "number") return `${figure(v, 3)}${withUnit && unit ? `${unit}` : ""}`;
    return v === "" ? "empty" : String(v);
  };
  return `${label} ${value(now, true)}, was ${value(was, false)}`;
}

/** The unit that a setting's name ends with, and how it is written behind a figure. */
const UNITS: readonly (readonly [ending: RegExp, unit: string])[] = [
  [/MmPerS$/, " mm/s"],
  [/Mm2$/, " mm²"],
  [/Mm$/, " mm"],
  [/Percent$/, " %"],
  [/Degrees$/, "°"],
];

/** What a setting is called: as its stage calls it, or its own name taken apart into words. */
function labelOf(path: string, stage?: StageId): { readonly label: string; readonly unit: string } {
  const key = path.split(".").filter((part) => !/^\d+$/.test(part));
  const last = key.at(-1)!;
  const [ending, unit] = UNITS.find(([e]) => e.test(last)) ?? [null, ""];
  const called = stage && stageById(stage).called?.[path];
  if (called) return { label: called, unit };
  const own = ending ? last.replace(ending, "") : last;
  const names = [...key.slice(0, -1), own].filter(Boolean).map(inWords);
  return { label: names.join(" "), unit };
}

/** "dotsPerInch" is "dots per inch". */
const inWords = (name: string): string => name.replace(/([a-z0-9])([A-Z])/g, "$1 $2").toLowerCase();

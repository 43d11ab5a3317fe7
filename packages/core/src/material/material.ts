import { figure } from "../inspect/check";
import { type Limits } from "../inspect/limits";
import { type CurvePoint } from "../tone/curve";
import { replaceSettings, settingsOf, withSettings, type Route } from "../route/route";

/** How a material takes a mark. */
export const ANSWERS = [
  "burns dark",
  "burns pale",
  "etched through resist",
  "printed film",
  "vinyl",
] as const;
export type Answer = (typeof ANSWERS)[number];

/** Ways to dots that suit a material. */
export const PATTERNS = [
  "fine scatter",
  "scatter",
  "coarse scatter",
  "blue noise",
  "screen",
  "line",
] as const;
export type Pattern = (typeof PATTERNS)[number];

/** What a surface looks like by itself. */
export const GRAINS = ["none", "wood", "stone", "brushed", "leather"] as const;
export type Grain = (typeof GRAINS)[number];

/** What a shop knows of a material. Lengths in millimetres; numbers.ts says what each number may be. */
export interface Material {
  /** Its name in route files; stays when the name changes. */
  readonly key: string;
  readonly name: string;
  readonly answer: Answer;
  /** What the machine runs at on it. */
  readonly dotsPerInch: number;
  /** The smallest mark, the smallest gap and the thinnest stroke that it holds. */
  readonly dotMm: number;
  readonly gapMm: number;
  readonly strokeMm: number;
  readonly pattern: Pattern;
  /** Of a screen. */
  readonly linesPerInch: number;
  /** #rrggbb of the surface as it is, and where it is marked. */
  readonly bareColour: string;
  readonly markColour: string;
  readonly grain: Grain;
  /** 0..1 */
  readonly grainStrength: number;
  /** How far a mark spreads beyond its dot all round. */
  readonly spreadMm: number;
  /** How it answers, by the newest wedge that was measured on it; left out while none was. */
  readonly curve?: MaterialCurve | null;
}

/** Share of black that is made and share that is seen, as a step wedge told. */
export interface MaterialCurve {
  readonly version: number;
  /** When it was measured, ISO 8601. */
  readonly createdAt: string;
  readonly points: readonly CurvePoint[];
}

/** The film printer's usual resolution, which a resist film comes near to. */
const FILM_DOTS_PER_INCH = 720;

interface Usual {
  readonly material: "burns-dark" | "burns-pale";
  readonly resistFilm: { readonly printerDotsPerInch: number } | undefined;
  /** Left out while no wedge was measured: a curve that was set by hand stays. */
  readonly gain?: readonly CurvePoint[];
}

/** What of Black & white follows from how a material takes a mark. */
function usualOf({ answer, dotsPerInch, curve }: Material): Usual {
  const times = Math.max(1, Math.round(FILM_DOTS_PER_INCH / dotsPerInch));
  return {
    material: answer === "burns pale" ? "burns-pale" : "burns-dark",
    resistFilm: answer === "etched through resist" ? { printerDotsPerInch: times * dotsPerInch } : undefined,
    ...(curve ? { gain: curve.points } : {}),
  };
}

/** A curve of a material, in words. */
const curveWords = ({ version, createdAt }: MaterialCurve): string =>
  `wedge ${version}, ${createdAt.slice(0, 10)}`;

const alike = (a: readonly CurvePoint[], b: readonly CurvePoint[]): boolean =>
  a.length === b.length && a.every((p, k) => p[0] === b[k][0] && p[1] === b[k][1]);

const limitsOf = ({ dotMm, gapMm, strokeMm, dotsPerInch }: Material): Partial<Limits> => ({
  ...{ dotMm, gapMm, strokeMm },
  machineDotsPerInch: dotsPerInch,
});

/** Settings of Black & white that make a pattern. */
export function patternSettings({ pattern, linesPerInch }: Pick<Material, "pattern" | "linesPerInch">): {
  readonly method: "line" | "scatter" | "screen";
  readonly [setting: string]: unknown;
} {
  switch (pattern) {
    case "fine scatter":
      return { method: "scatter", kernel: "floyd-steinberg" };
    case "scatter":
      return { method: "scatter", kernel: "jarvis-judice-ninke" };
    case "coarse scatter":
      return { method: "scatter", kernel: "stucki", smallestMark: 2 };
    case "blue noise":
      return { method: "scatter", kernel: "blue-noise" };
    case "screen":
      return { method: "screen", linesPerInch };
    case "line":
      return { method: "line" };
  }
}

/** The same route for a material: its polarity, its resolution and its limits. */
export function routeFor(route: Route, material: Material): Route {
  let next: Route = {
    ...route,
    material: material.key,
    checks: { ...route.checks, ...limitsOf(material) },
  };
  if (settingsOf(next, "size")) next = withSettings(next, "size", { dotsPerInch: material.dotsPerInch });
  const blackWhite = settingsOf(next, "blackWhite");
  if (blackWhite) {
    const { gain, ...usual } = usualOf(material);
    // A line has no tones, and so no curve.
    next = withSettings(next, "blackWhite", gain && "gain" in blackWhite ? { ...usual, gain } : usual);
  }
  return next;
}

/** The same route with the pattern that its material prefers; what of it is set otherwise begins anew. */
export function withPattern(route: Route, material: Material): Route {
  const now = settingsOf(route, "blackWhite");
  if (!now) return route;
  const { material: polarity, resistFilm } = now;
  const pattern = patternSettings(material);
  const gain = pattern.method !== "line" && material.curve ? { gain: material.curve.points } : {};
  const kept = { material: polarity, ...(resistFilm ? { resistFilm } : {}), ...gain };
  return replaceSettings(route, "blackWhite", { ...pattern, ...kept });
}

/** Something of a route that is not as its material wants it. */
export interface Deviation {
  readonly what: string;
  readonly now: string;
  readonly usual: string;
}

/** Where a route differs from what its material sets, and from the pattern it prefers. */
export function deviationsFrom(route: Route, material: Material): Deviation[] {
  const found: Deviation[] = [];
  const compare = (what: string, now: string, usual: string): void => {
    if (now !== usual) found.push({ what, now, usual });
  };
  const size = settingsOf(route, "size");
  if (size) compare("dots per inch", figure(size.dotsPerInch, 2), figure(material.dotsPerInch, 2));
  const blackWhite = settingsOf(route, "blackWhite");
  if (blackWhite) {
    const usual = usualOf(material);
    const words = { "burns-dark": "marks the dark", "burns-pale": "marks the light" };
    compare("polarity", words[blackWhite.material], words[usual.material]);
    compare("resist film", blackWhite.resistFilm ? "made" : "none", usual.resistFilm ? "made" : "none");
    if (material.curve && "gain" in blackWhite) {
      const own = blackWhite.gain as readonly CurvePoint[];
      const none = own.every(([made, seen]) => made === seen);
      const usualCurve = curveWords(material.curve);
      compare(
        "curve",
        alike(own, material.curve.points) ? usualCurve : none ? "none" : "another",
        usualCurve,
      );
    }
    const { method } = patternSettings(material);
    const own = blackWhite as unknown as Readonly<Record<string, unknown>>;
    const asPreferred = Object.entries(patternSettings(material)).every(([k, v]) => own[k] === v);
    if (!asPreferred && (method !== "line" || own.method !== "line"))
      found.push({ what: "pattern", now: String(own.kernel ?? own.method), usual: material.pattern });
  }
  const names = { dotMm: "smallest mark", gapMm: "smallest gap", strokeMm: "thinnest stroke" } as const;
  for (const name of ["dotMm", "gapMm", "strokeMm"] as const)
    compare(names[name], `${figure(route.checks[name], 3)} mm`, `${figure(material[name], 3)} mm`);
  return found;
}

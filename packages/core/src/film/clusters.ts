import { hexOf, labDistance } from "../colour/oklab";
import { countColours, type Counted } from "./colourCount";
import { labOfHex } from "./glareLab";
import { strokeInks } from "./strokeInks";
import { workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";

/** A flat colour of the art. */
export interface FlatColour {
  /** #rrggbb */
  readonly colour: string;
  /** Of the art, 0..1. */
  readonly share: number;
}

export interface FoundColours {
  /** Largest first. */
  readonly colours: readonly FlatColour[];
  /** Why so many, in words. */
  readonly reason: string;
}

// Thresholds: what they decide is measured by `npm run films`.

/** Inks that a shop would print one over another at most. */
export const MOST_INKS = 10;
/** Groups nearer than this are one colour with its noise. */
const ONE_COLOUR = 7;
/** A thin stroke's colour is mixed with what is beside it, so one nearer than this to an ink is of that ink. */
const STROKE_APART = 14;
/** Less of the art than this is no colour of its own. */
const LEAST_SHARE = 0.0015;
/** Colours that are looked at; the rest are too rare to lead. */
const MOST_COLOURS = 700;
/** A group's colour is the mean of what lies this near its middle: what noise and edges left is out of it. */
const NEAR = 4;

interface Group {
  readonly members: readonly Counted[];
  readonly count: number;
  readonly l: number;
  readonly a: number;
  readonly b: number;
}

/**
 * The flat colours of a picture: its colours in OKLab, joined pair by pair so that the squared distance from colours to
 * their group's middle grows by as little as can be, until as many groups are left as were asked for, or until the
 * nearest two are further apart than noise is.
 *
 * @param count  "auto", or 1 to `MOST_INKS`
 * @param not    colours that are not looked for, such as the cloth's and those of locked inks
 * @see Ward, "Hierarchical Grouping to Optimize an Objective Function", J. Am. Stat. Assoc. 58, 1963
 */
export function* findColours(
  picture: Rgba,
  count: number | "auto",
  not: readonly string[] = [],
): Work<FoundColours> {
  const counted = yield* workSlice(countColours(picture), 0, 0.4);
  const strokes = yield* workSlice(strokeInks(picture), 0.4, 0.6);
  const known = not.map((hex) => labOfHex(hex));
  const own = counted.filter((c) => known.every((k) => labDistance(c.lab, k) > ONE_COLOUR));
  const all = own.reduce((sum, c) => sum + c.count, 0);
  if (all === 0 && strokes.length === 0)
    return { colours: [], reason: "The art has no colour that is not known already." };
  const frequent = own.slice(0, MOST_COLOURS).filter((c) => c.count >= all * 2e-5 || own.length < 40);
  const groups = yield* workSlice(joined(frequent, count, all), 0.6, 1);
  const colours = groups
    .map((g) => ({ colour: colourOf(g), share: g.count / all }))
    .sort((p, q) => q.share - p.share);
  const most = count === "auto" ? MOST_INKS : count;
  for (const stroke of strokes) {
    const lab = labOfHex(stroke.colour);
    const isNew = [...known, ...colours.map((c) => labOfHex(c.colour))].every(
      (other) => labDistance(lab, other) > STROKE_APART,
    );
    if (isNew && stroke.share >= LEAST_SHARE && colours.length < most) colours.push(stroke);
  }
  return { colours, reason: reasonFor(groups, count, all) };
}

function* joined(colours: readonly Counted[], count: number | "auto", all: number): Work<Group[]> {
  let groups: Group[] = colours.map((c) => ({ members: [c], count: c.count, ...c.lab }));
  const nearest = groups.map((_, i) => nearestOf(groups, i));
  const gone = new Uint8Array(groups.length);
  let left = groups.length;
  const most = count === "auto" ? MOST_INKS : count;
  for (;;) {
    if (left % 16 === 0) yield 1 - left / colours.length;
    let at = -1;
    for (let i = 0; i < groups.length; i++)
      if (!gone[i] && nearest[i].to >= 0 && (at < 0 || nearest[i].cost < nearest[at].cost)) at = i;
    if (at < 0) break;
    const { to } = nearest[at];
    const apart = distanceOf(groups[at], groups[to]);
    const little = Math.min(groups[at].count, groups[to].count) < LEAST_SHARE * all;
    if (left <= most && (count !== "auto" || (apart > ONE_COLOUR && !little))) break;
    groups[at] = together(groups[at], groups[to]);
    gone[to] = 1;
    left--;
    for (let i = 0; i < groups.length; i++)
      if (!gone[i] && (i === at || nearest[i].to === at || nearest[i].to === to))
        nearest[i] = nearestOf(groups, i, gone);
      else if (!gone[i]) {
        const cost = costOf(groups[i], groups[at]);
        if (cost < nearest[i].cost) nearest[i] = { to: at, cost };
      }
  }
  groups = groups.filter((_, i) => !gone[i]);
  // A handful of stray pixels is a colour only where it was asked for.
  return count === "auto"
    ? groups.filter((g) => g.count >= LEAST_SHARE * all || groups.length === 1)
    : groups;
}

function nearestOf(groups: readonly Group[], i: number, gone?: Uint8Array): { to: number; cost: number } {
  let best = { to: -1, cost: Infinity };
  for (let j = 0; j < groups.length; j++) {
    if (j === i || gone?.[j]) continue;
    const cost = costOf(groups[i], groups[j]);
    if (cost < best.cost) best = { to: j, cost };
  }
  return best;
}

const distanceOf = (p: Group, q: Group): number => labDistance(p, q);

/** By how much the squared distances grow when two groups become one. */
function costOf(p: Group, q: Group): number {
  const d = distanceOf(p, q);
  return ((p.count * q.count) / (p.count + q.count)) * d * d;
}

function together(p: Group, q: Group): Group {
  const count = p.count + q.count;
  const mean = (one: number, other: number): number => (one * p.count + other * q.count) / count;
  return {
    members: [...p.members, ...q.members],
    count,
    l: mean(p.l, q.l),
    a: mean(p.a, q.a),
    b: mean(p.b, q.b),
  };
}

/** The mean of the colours near the group's most frequent one. */
function colourOf({ members }: Group): string {
  const middle = members.reduce((a, b) => (b.count > a.count ? b : a));
  const near = members.filter((m) => labDistance(m.lab, middle.lab) <= NEAR);
  const count = near.reduce((sum, m) => sum + m.count, 0);
  const mean = (of: (m: Counted) => number): number =>
    Math.round(near.reduce((sum, m) => sum + of(m) * m.count, 0) / count);
  return hexOf(
    mean((m) => m.red),
    mean((m) => m.green),
    mean((m) => m.blue),
  );
}

function reasonFor(groups: readonly Group[], count: number | "auto", all: number): string {
  const number = groups.length;
  if (count !== "auto") return `${number} ${number === 1 ? "colour" : "colours"}, as asked for.`;
  const held = Math.min(100, (100 * groups.reduce((sum, g) => sum + g.count, 0)) / all);
  let nearest = Infinity;
  for (const [i, g] of groups.entries())
    for (const other of groups.slice(i + 1)) nearest = Math.min(nearest, distanceOf(g, other));
  const apart =
    number > 1
      ? ` The two most alike are ${nearest.toFixed(0)} apart; under ${ONE_COLOUR} counts as one with its noise.`
      : "";
  return `${number} flat ${number === 1 ? "colour holds" : "colours hold"} ${held.toFixed(1)} % of the even areas.${apart}`;
}

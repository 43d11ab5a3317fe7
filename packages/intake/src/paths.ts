import { type ArtworkPaths, type PathGroup } from "@hardline/contract";
import { DrawingError, type Drawing } from "@hardline/core/drawing/drawing";
import { broken } from "./errors";
import { pathData } from "@hardline/core/format/svg";

/** A group before it has its name. */
type Nameless = Omit<PathGroup, "name">;

/** Groups with what each is called: those that are cut along first, then those with most closed paths. */
export function groupsOf(groups: readonly Nameless[]): PathGroup[] {
  const times = new Map<string, number>();
  const named = groups.map((group) => {
    const name = nameOf(group, groups);
    const nth = (times.get(name) ?? 0) + 1;
    times.set(name, nth);
    return { ...group, name: nth > 1 ? `${name}, ${nth}` : name };
  });
  return named
    .filter((group) => group.closed + group.open > 0)
    .sort((a, b) => Number(b.cutting) - Number(a.cutting) || b.closed - a.closed)
    .slice(0, MOST_GROUPS);
}

const MOST_GROUPS = 100;

/** Whether a layer is called what is cut along, in the trade's words. */
export const isCutByName = (layer: string): boolean =>
  /^(cut|cutting|cut ?line|die|die ?line)$/i.test(layer.trim());

/** Its layer, where it has one that no other group is of; what is drawn there and its colour otherwise. */
function nameOf({ layer, colour, painted, cutting }: Nameless, all: readonly Nameless[]): string {
  const looks = `${painted === "filled" ? "shapes" : "lines"} ${colour}`;
  if (layer === null) return looks;
  const alone = all.filter((other) => other.layer === layer).length === 1;
  return `${layer}${cutting ? ", cut" : ""}${alone ? "" : `, ${looks}`}`;
}

/** A drawing that is read. @throws IntakeError with why it cannot be */
export function readAs<T>(kind: string, read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof DrawingError) throw broken(kind, error.message);
    throw error;
  }
}

/** A drawing's own sets of paths as groups. */
export function pathsOfDrawing({ widthMm, heightMm, sets }: Drawing): ArtworkPaths {
  const groups = sets.map((set): Nameless => {
    const closed = set.closed.reduce((sum, v) => sum + v, 0);
    return {
      layer: set.name,
      colour: `#${set.colour.toString(16).padStart(6, "0")}`,
      painted: set.use === "fill" ? "filled" : "lined",
      ...{ closed, open: set.closed.length - closed },
      cutting: isCutByName(set.name),
      d: pathData(set),
    };
  });
  return { widthMm, heightMm, groups: groupsOf(groups) };
}

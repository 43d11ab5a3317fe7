import { type Paper } from "@hardline/core/paper/settings";
import { type Place } from "./usePaper";

/** Something of a paper that is dragged: a corner, or a place that a curled edge passes through. */
export interface Handle {
  readonly of: "corners" | "top" | "foot";
  readonly at: number;
}

/** All of a paper's, in the order in which they are gone through. */
export function handlesOf({ corners, curled }: Paper): (Handle & { readonly place: Place })[] {
  const of = (name: Handle["of"], places: readonly Place[]) =>
    places.map((place, at) => ({ of: name, at, place }));
  return [
    ...of("corners", corners),
    ...(curled ? [...of("top", curled.top), ...of("foot", curled.foot)] : []),
  ];
}

/** The paper with one of them elsewhere. A corner takes the edges that meet there along. */
export function withHandle(paper: Paper, { of, at }: Handle, place: Place): Paper {
  const put = <T extends readonly Place[]>(places: T): T =>
    places.map((p, k) => (k === at ? place : p)) as unknown as T;
  if (of === "corners") return { ...paper, corners: put(paper.corners) };
  const { curled } = paper;
  return curled ? { ...paper, curled: { ...curled, [of]: put(curled[of]) } } : paper;
}

/** Screen pixels from which a handle is taken. */
const NEAR = 26;

/** The one that is nearest to a place on the screen, where one is near. */
export function nearest<T extends Handle & { readonly place: Place }>(
  handles: readonly T[],
  toScreen: (place: Place) => readonly [number, number],
  [x, y]: readonly [number, number],
): T | null {
  const away = (h: T): number => {
    const [hx, hy] = toScreen(h.place);
    return Math.hypot(hx - x, hy - y);
  };
  const best = handles.reduce<T | null>((a, b) => (a && away(a) <= away(b) ? a : b), null);
  return best && away(best) <= NEAR ? best : null;
}

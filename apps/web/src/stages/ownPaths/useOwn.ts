import { type ArtworkView, type PathGroup } from "@hardline/contract";
import { turnedOver, type OverArtwork } from "@hardline/core/drawing/turnedOver";
import { settingsOf, type Route } from "@hardline/core/route/route";
import { useOwnPaths } from "../../api/artworks";

/** Paths that an artwork has of its own. */
export interface OwnPaths {
  readonly all: readonly PathGroup[];
  /** Those that may be cut along: they have closed ones. */
  readonly groups: readonly PathGroup[];
  /** A group over the artwork as the route turns it. */
  readonly over: (group: PathGroup, route: Route) => OverArtwork;
}

/** Null until they are known, and for artwork that has none. */
export function useOwn(artwork: ArtworkView): OwnPaths | null {
  const { data } = useOwnPaths(artwork);
  if (!data) return null;
  const { widthMm, heightMm } = data;
  return {
    all: data.groups,
    groups: data.groups.filter((group) => group.closed > 0),
    over(group, route) {
      const { straighten, turn, mirror } = settingsOf(route, "size") ?? NO_TURN;
      const of = `${straighten} ${turn} ${mirror}`;
      const known = made.get(group);
      if (known?.of === of) return known.over;
      const over = turnedOver({ d: group.d, widthMm, heightMm }, { straighten, turn, mirror });
      made.set(group, { of, over });
      return over;
    },
  };
}

/** Groups as they were last turned: a panel asks for them with every stroke of a key. */
const made = new WeakMap<PathGroup, { readonly of: string; readonly over: OverArtwork }>();
const NO_TURN = { straighten: 0, turn: 0, mirror: false } as const;

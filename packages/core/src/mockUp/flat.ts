import { type Rect } from "../raster/types";
import { type KnotPath } from "../path/pathSet";
import { flatSurface, type Point } from "./surface";
import { type Drawn, type PrintArea, type UsualPlace } from "./thing";

/** Something flat that is looked at straight: an outline, and one area on it. */
export interface FlatWish {
  readonly widthMm: number;
  readonly heightMm: number;
  /** From its own top left. */
  readonly outline: KnotPath;
  /** Where the area's origin lies: mm from its top left. */
  readonly origin: Point;
  readonly limits: Rect;
  readonly name?: string;
  readonly below?: string;
  readonly seams?: PrintArea["seams"];
  readonly places: readonly UsualPlace[];
  readonly more?: Partial<Pick<Drawn, "parts" | "lines" | "folds" | "rounded" | "light" | "shine">>;
  /** Room about it in its picture; a fifth of its longer side when left out. */
  readonly roomMm?: number;
}

/** @returns  the drawing, all that was given moved to its place in the picture */
export function flat(wish: FlatWish): Drawn {
  const { widthMm, heightMm, outline, origin, limits, places, more = {} } = wish;
  const room = wish.roomMm ?? Math.max(widthMm, heightMm) / 8;
  const to = (path: KnotPath): KnotPath => ({
    ...path,
    knots: path.knots.map((k) => ({ ...k, at: [k.at[0] + room, k.at[1] + room] as const })),
  });
  const each = (path: KnotPath | readonly KnotPath[]) => ("knots" in path ? to(path) : path.map(to));
  const at = ([x, y]: Point): Point => [x + room, y + room];
  return {
    widthMm: widthMm + 2 * room,
    heightMm: heightMm + 2 * room,
    parts: [{ path: to(outline) }, ...(more.parts ?? []).map((p) => ({ ...p, path: each(p.path) }))],
    lines: (more.lines ?? []).map((l) => ({ ...l, path: to(l.path) })),
    folds: (more.folds ?? []).map((f) => ({ ...f, from: at(f.from), to: at(f.to) })),
    rounded: more.rounded,
    light: more.light && ((x, y) => more.light!(x - room, y - room)),
    shine: more.shine && ((x, y) => more.shine!(x - room, y - room)),
    areas: [
      {
        name: wish.name ?? "Front",
        limits,
        edges: { x: -origin[0], y: -origin[1], width: widthMm, height: heightMm },
        below: wish.below ?? "the top edge",
        seams: wish.seams ?? [],
        surfaces: [flatSurface(at(origin))],
      },
    ],
    places,
  };
}

import { type PathGroup } from "@hardline/contract";
import { MM_PER_INCH } from "@hardline/core/maths/units";
import { IntakeError } from "../errors";
import { layerOf } from "./layers";
import { borrowed, floatsOf, withPage, type OpenPdf, type Pdfium } from "./library";
import { placeOn, type Area } from "./page";

const POINTS = 72;
/** Pieces of lines and curves that paths may have all together, and forms within forms. */
const [MOST_PIECES, MOST_DEPTH] = [500_000, 12];
/** Numbers of the library: kinds of what is on a page, and of pieces of a path. */
const [PATH, FORM] = [2, 5];
const [LINE, CURVE, MOVE] = [0, 1, 2];

/** From a path's own plane to the page's: x' = a x + c y + e, y' = b x + d y + f. */
type Matrix = readonly [number, number, number, number, number, number];
const AS_IT_IS: Matrix = [1, 0, 0, 1, 0, 0];

/** First one, then the other. */
const times = ([a, b, c, d, e, f]: Matrix, [p, q, r, s, t, u]: Matrix): Matrix => [
  a * p + b * r,
  a * q + b * s,
  c * p + d * r,
  c * q + d * s,
  e * p + f * r + t,
  e * q + f * s + u,
];

type Box = readonly number[];
/** Sets that shapes lying over one another are parted into, and shapes of one that others are compared with. */
const [MOST_OVER, MOST_BOXES] = [12, 2000];

/** A line has no width: what touches meets. */
const meets = ([l, b, r, t]: Box, [m, c, s, u]: Box): boolean => l <= s && m <= r && b <= u && c <= t;

const overlaps = ([l, b, r, t]: Box, [m, c, s, u]: Box): boolean => l < s && m < r && b < u && c < t;

interface Found {
  readonly layer: string | null;
  readonly colour: string;
  readonly painted: PathGroup["painted"];
  readonly parts: string[];
  /** Of what is in it, as it is shown. */
  readonly boxes: Box[];
  closed: number;
  open: number;
}

/**
 * What is drawn on a page as paths, in mm from an area's upper left, by layer, colour and way of painting. What they are
 * clipped by is not looked at; letters are none.
 * @param unit  points to the page's own unit
 * @throws IntakeError where there are too many
 */
export function pathsOn(
  pdf: OpenPdf,
  page: number,
  area: Area,
  unit: number,
): Omit<PathGroup, "name" | "cutting">[] {
  const { library } = pdf;
  const groups = new Map<string, Found>();
  let pieces = 0;
  const scale = (unit / POINTS) * MM_PER_INCH;
  const onPaper: Box = [0, 0, area.width * scale, area.height * scale];
  withPage(pdf, page, (at) => {
    const place = placeOn(pdf, at);
    const take = (object: number, by: Matrix, layer: string | null): void => {
      const painted = paintedBy(library, object);
      if (!painted) return;
      pieces += library.FPDFPath_CountSegments(object);
      if (pieces > MOST_PIECES)
        throw new IntakeError(`The page has over ${MOST_PIECES} pieces of paths; so many are no outline.`);
      const [a, b, c, d, e, f] = times(matrixOf(library, object) ?? AS_IT_IS, by);
      const path = readPath(library, object, painted === "filled", (x, y) => {
        const [u, v] = place(a * x + c * y + e, b * x + d * y + f);
        return [(u - area.x) * scale, (v - area.y) * scale];
      });
      if (!meets(path.box, onPaper)) return; // marks beside the edge that counts
      const group = groupFor(
        groups,
        { layer, colour: colourOf(library, object, painted), painted },
        path.box,
      );
      group.parts.push(path.words);
      group.closed += path.closed;
      group.open += path.open;
    };
    const walk = (
      count: number,
      nth: (k: number) => number,
      by: Matrix,
      layer: string | null,
      depth: number,
    ) => {
      for (let k = 0; k < count; k++) {
        const object = nth(k);
        const kind = library.FPDFPageObj_GetType(object);
        const on = layerOf(library, object) ?? layer;
        if (kind === PATH) take(object, by, on);
        else if (kind === FORM && depth < MOST_DEPTH)
          walk(
            library.FPDFFormObj_CountObjects(object),
            (n) => library.FPDFFormObj_GetObject(object, n),
            times(matrixOf(library, object) ?? AS_IT_IS, by),
            ...([on, depth + 1] as const),
          );
      }
    };
    walk(library.FPDFPage_CountObjects(at), (k) => library.FPDFPage_GetObject(at, k), AS_IT_IS, null, 0);
  });
  return [...groups.values()].map(({ parts, boxes: _boxes, ...group }) => ({ ...group, d: parts.join("") }));
}

function matrixOf(library: Pdfium, object: number): Matrix | null {
  return floatsOf(library, 6, (at) => library.FPDFPageObj_GetMatrix(object, at)) as unknown as Matrix | null;
}

/** Filled where it is; lined where it is only that; null where it is neither, as what only clips. */
function paintedBy(library: Pdfium, object: number): PathGroup["painted"] | null {
  return borrowed(library, 8, (at) => {
    if (!library.FPDFPath_GetDrawMode(object, at, at + 4)) return null;
    const [filled, lined] = [0, 4].map((k) => library.pdfium.getValue(at + k, "i32"));
    return filled ? "filled" : lined ? "lined" : null;
  });
}

function colourOf(library: Pdfium, object: number, painted: PathGroup["painted"]): string {
  const read = painted === "filled" ? library.FPDFPageObj_GetFillColor : library.FPDFPageObj_GetStrokeColor;
  return borrowed(library, 16, (at) => {
    if (!read(object, at, at + 4, at + 8, at + 12)) return "#000000";
    const codes = [0, 4, 8].map((k) => library.pdfium.getValue(at + k, "i32") & 255);
    return `#${codes.map((v) => v.toString(16).padStart(2, "0")).join("")}`;
  });
}

interface ReadPath {
  readonly words: string;
  readonly closed: number;
  readonly open: number;
  readonly box: Box;
}

/** A path as SVG path data. What is filled is closed by that. */
function readPath(
  library: Pdfium,
  object: number,
  filled: boolean,
  place: (x: number, y: number) => readonly [number, number],
): ReadPath {
  let [words, closed, open] = ["", 0, 0];
  /** Pieces since the path was last begun; -1 where none is. */
  let since = -1;
  let curve: string[] = [];
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  const end = (said: boolean): void => {
    if (since > 0 || said) {
      if (filled && !said) words += "Z";
      if (filled || said) closed++;
      else open++;
    }
    since = -1;
  };
  for (let k = 0; k < library.FPDFPath_CountSegments(object); k++) {
    const piece = library.FPDFPath_GetPathSegment(object, k);
    const kind = library.FPDFPathSegment_GetType(piece);
    const [x, y] = place(
      ...((floatsOf(library, 2, (u, v) => library.FPDFPathSegment_GetPoint(piece, u, v)) ?? [0, 0]) as [
        number,
        number,
      ]),
    );
    box.splice(0, 4, Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y));
    const at = `${Number(x.toFixed(4))} ${Number(y.toFixed(4))}`;
    if (kind === MOVE) {
      if (since >= 0) end(false);
      words += `M${at}`;
      [since, curve] = [0, []];
    } else if (kind === LINE) {
      words += `L${at}`;
      since++;
    } else if (kind === CURVE) {
      curve.push(at);
      if (curve.length === 3) {
        words += `C${curve.join(" ")}`;
        [curve, since] = [[], since + 1];
      }
    }
    if (library.FPDFPathSegment_GetClose(piece)) {
      words += "Z";
      end(true);
    }
  }
  if (since >= 0) end(false);
  return { words, closed, open, box };
}

/** The group that a path belongs to. What lies over another of its colour is painted over it: in one, both would be open where they meet. */
function groupFor(
  groups: Map<string, Found>,
  look: Pick<Found, "layer" | "colour" | "painted">,
  box: Box,
): Found {
  for (let n = 0; ; n++) {
    const key = `${look.layer} ${look.colour} ${look.painted} ${n}`;
    const known = groups.get(key);
    if (known && look.painted === "filled" && n < MOST_OVER && known.boxes.some((b) => overlaps(b, box)))
      continue;
    const group = known ?? { ...look, parts: [], boxes: [], closed: 0, open: 0 };
    groups.set(key, group);
    if (group.boxes.length < MOST_BOXES) group.boxes.push(box);
    return group;
  }
}

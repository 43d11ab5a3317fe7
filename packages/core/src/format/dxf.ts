import { type Work } from "../maths/work";
import { flattenedInSlices } from "../path/flatten";
import { type PathSet, type PathUse } from "../path/pathSet";
import { type Rect } from "../raster/types";
import { Pieces } from "./pieces";

/** Curves become straight pieces that stay this near to them, in mm: nearer than any machine is true. */
const FLAT_MM = 0.0005;
/** Of the index of colours that the format has: cyan, blue, green, red, white. */
const COLOURS: Record<PathUse, number> = { print: 4, through: 5, kiss: 3, score: 1, fill: 7 };
const DECIMALS = 1e5;
/** Lines written between two slices. */
const LINES_AT_ONCE = 1 << 15;

/**
 * A drawing in DXF of release 12, in millimetres, y upwards from the lower edge of a box: a layer a set, a polyline a path.
 *
 * @param box  of the drawing, in mm from the piece's top left; its lower left becomes the origin
 * @see Autodesk, "DXF Reference", release 12: sections HEADER, TABLES, ENTITIES
 */
export function* writeDxf(sets: readonly PathSet[], box: Rect): Work<Uint8Array> {
  const text = new Pieces();
  const lines: (string | number)[] = [];
  const add = (...pairs: (string | number)[]) => void lines.push(...pairs);
  const number = (v: number): string => {
    const text = String(Math.round(v * DECIMALS) / DECIMALS);
    return text.includes(".") ? text : `${text}.0`;
  };
  const place = (code: number, x: number, y: number) =>
    add(code, number(x), code + 10, number(y), code + 20, "0.0");
  add(0, "SECTION", 2, "HEADER", 9, "$ACADVER", 1, "AC1009", 9, "$INSUNITS", 70, 4, 9, "$EXTMIN");
  place(10, 0, 0);
  add(9, "$EXTMAX");
  place(10, box.width, box.height);
  add(0, "ENDSEC", 0, "SECTION", 2, "TABLES");
  add(
    0,
    "TABLE",
    2,
    "LTYPE",
    70,
    1,
    0,
    "LTYPE",
    2,
    "CONTINUOUS",
    70,
    64,
    3,
    "Solid line",
    72,
    65,
    73,
    0,
    40,
    "0.0",
  );
  add(0, "ENDTAB", 0, "TABLE", 2, "LAYER", 70, sets.length);
  for (const set of sets)
    add(0, "LAYER", 2, layerName(set.name), 70, 64, 62, COLOURS[set.use], 6, "CONTINUOUS");
  add(0, "ENDTAB", 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES");
  for (const [n, set] of sets.entries()) {
    const layer = layerName(set.name);
    for (const { points, closed } of yield* flattenedInSlices(set, FLAT_MM)) {
      add(0, "POLYLINE", 8, layer, 66, 1);
      place(10, 0, 0);
      add(70, closed ? 1 : 0);
      // A closed one is joined to its first point by itself.
      const last = closed ? points.length - 2 : points.length;
      for (let k = 0; k < last; k += 2) {
        if (lines.length > LINES_AT_ONCE) {
          text.add(`${lines.splice(0).join("\r\n")}\r\n`);
          yield n / sets.length;
        }
        add(0, "VERTEX", 8, layer);
        place(10, points[k] - box.x, box.y + box.height - points[k + 1]);
      }
      add(0, "SEQEND", 8, layer);
    }
  }
  add(0, "ENDSEC", 0, "EOF");
  text.add(`${lines.join("\r\n")}\r\n`);
  return text.bytes();
}

/** Names of layers in release 12 are of capitals, digits, hyphens and underscores, 31 at most. */
export const layerName = (name: string): string =>
  name
    .toUpperCase()
    .replace(/[^A-Z0-9-]+/g, "_")
    .slice(0, 31) || "_";

import { XMLParser } from "fast-xml-parser";
import { MM_PER_INCH } from "../maths/units";
import { countPaths, pathSetOf, type KnotPath, type PathSet, type PathUse } from "../path/pathSet";
import { DrawingError, MOST_POINTS, type Drawing } from "./drawing";
import { knotsFrom } from "./pathData";

/** Millimetres of each unit of length; a number alone is a pixel of 96 to the inch. */
const UNITS: Record<string, number> = {
  ...{ mm: 1, cm: 10, in: MM_PER_INCH, pt: MM_PER_INCH / 72, pc: MM_PER_INCH / 6 },
  ...{ px: MM_PER_INCH / 96, "": MM_PER_INCH / 96 },
};

interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly Element[];
}

/** What an element passes on to those within it. */
interface Inherited {
  readonly transform: string;
  readonly attributes: Readonly<Record<string, string>>;
}

/** Kept from group to shape. */
const PASSED_ON = ["id", "fill", "stroke", "style", "display", "data-use", "data-power", "data-speed"];
/** Of what is only drawn when something names it, nothing is taken. */
const UNSEEN = [
  "defs",
  "symbol",
  "clipPath",
  "mask",
  "pattern",
  "marker",
  "linearGradient",
  "radialGradient",
  "title",
  "desc",
  "metadata",
  "style",
];

/**
 * Shapes of an SVG as paths in millimetres: a set for each group, or for each shape by itself. What says what it is for
 * (as files of ours do) is that; else what is filled is filled, and the rest is a line.
 *
 * @throws DrawingError where it is none, or too much of one
 * @see W3C, Scalable Vector Graphics 1.1: chapters 7 (coordinate systems, units), 8 (paths), 9 (basic shapes)
 */
export function readSvgDrawing(text: string): Drawing {
  const root = parsed(text).find((e) => e.name === "svg");
  if (!root) throw new DrawingError("The file is no SVG drawing: it has no svg element.");
  const box = numbersOf(root.attributes.viewBox);
  const [x, y, w, h] = box.length === 4 && box[2] > 0 && box[3] > 0 ? box : [0, 0, NaN, NaN];
  const widthMm = lengthOf(root.attributes.width) ?? w * UNITS.px;
  const heightMm = lengthOf(root.attributes.height) ?? h * UNITS.px;
  if (!(widthMm > 0) || !(heightMm > 0))
    throw new DrawingError("The drawing has no size: neither width and height nor a viewBox.");
  const scale = Number.isNaN(w) ? [UNITS.px, UNITS.px] : [widthMm / w, heightMm / h];
  const start: Inherited = {
    transform: `scale(${scale[0]} ${scale[1]}) translate(${-x} ${-y})`,
    attributes: {},
  };
  const sets = new Map<string, { look: Omit<PathSet, "points" | "starts" | "closed">; paths: KnotPath[] }>();
  let points = 0;
  walk(root, start, (d, transform, attributes) => {
    const paths = knotsFrom(d, transform);
    points += paths.reduce((sum, p) => sum + p.knots.length, 0);
    if (points > MOST_POINTS) throw new DrawingError(`The drawing has over ${MOST_POINTS} points.`);
    const look = lookOf(attributes);
    const key = JSON.stringify(look);
    if (!sets.has(key)) sets.set(key, { look, paths: [] });
    sets.get(key)!.paths.push(...paths);
  });
  const found = [...sets.values()].map(({ look, paths }) => pathSetOf(look, paths));
  return { widthMm, heightMm, sets: found.filter((set) => countPaths(set) > 0) };
}

function parsed(text: string): Element[] {
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: "",
    removeNSPrefix: true,
    processEntities: true,
  });
  let nodes: unknown;
  try {
    nodes = parser.parse(text, true);
  } catch (error) {
    throw new DrawingError(`The file is no SVG drawing: ${(error as Error).message}`);
  }
  const elements = (list: unknown): Element[] =>
    (list as Record<string, unknown>[]).flatMap((node) => {
      const name = Object.keys(node).find((key) => key !== ":@");
      if (!name || name.startsWith("#") || name.startsWith("?")) return [];
      const attributes = (node[":@"] ?? {}) as Record<string, string>;
      return [{ name, attributes, children: elements(node[name]) }];
    });
  return elements(nodes);
}

function walk(
  element: Element,
  { transform, attributes: before }: Inherited,
  take: (d: string, transform: string, attributes: Readonly<Record<string, string>>) => void,
): void {
  const { name, attributes: own, children } = element;
  if (UNSEEN.includes(name)) return;
  const passed = Object.fromEntries(PASSED_ON.flatMap((key) => (before[key] ? [[key, before[key]]] : [])));
  const attributes = { ...passed, ...own, ...stylesIn(own.style) };
  if (attributes.display === "none") return;
  const here = own.transform && name !== "svg" ? `${transform} ${own.transform}` : transform;
  const d = shapeOf(name, own);
  if (d) take(d, here, attributes);
  for (const child of children) walk(child, { transform: here, attributes }, take);
}

const stylesIn = (style = ""): Record<string, string> =>
  Object.fromEntries(
    style.split(";").flatMap((part) => {
      const [name, value] = part.split(":").map((s) => s.trim());
      return name && value ? [[name, value]] : [];
    }),
  );

/** The path data of a basic shape. */
function shapeOf(name: string, a: Readonly<Record<string, string>>): string | null {
  const n = (key: string): number => Number.parseFloat(a[key] ?? "0") || 0;
  const ellipse = (cx: number, cy: number, rx: number, ry: number): string =>
    `M${cx - rx} ${cy}A${rx} ${ry} 0 1 1 ${cx + rx} ${cy}A${rx} ${ry} 0 1 1 ${cx - rx} ${cy}Z`;
  switch (name) {
    case "path":
      return a.d ?? null;
    case "rect": {
      const [x, y, w, h] = [n("x"), n("y"), n("width"), n("height")];
      if (w <= 0 || h <= 0) return null;
      const rx = Math.min(w / 2, n(a.rx === undefined ? "ry" : "rx"));
      const ry = Math.min(h / 2, n(a.ry === undefined ? "rx" : "ry"));
      if (rx <= 0 || ry <= 0) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
      const arc = (px: number, py: number) => `A${rx} ${ry} 0 0 1 ${px} ${py}`;
      return `M${x + rx} ${y}H${x + w - rx}${arc(x + w, y + ry)}V${y + h - ry}${arc(x + w - rx, y + h)}H${x + rx}${arc(x, y + h - ry)}V${y + ry}${arc(x + rx, y)}Z`;
    }
    case "circle":
      return n("r") > 0 ? ellipse(n("cx"), n("cy"), n("r"), n("r")) : null;
    case "ellipse":
      return n("rx") > 0 && n("ry") > 0 ? ellipse(n("cx"), n("cy"), n("rx"), n("ry")) : null;
    case "line":
      return `M${n("x1")} ${n("y1")}L${n("x2")} ${n("y2")}`;
    case "polyline":
    case "polygon": {
      const at = numbersOf(a.points);
      if (at.length < 4) return null;
      const places = Array.from({ length: at.length >> 1 }, (_, k) => `${at[2 * k]} ${at[2 * k + 1]}`);
      return `M${places.join("L")}${name === "polygon" ? "Z" : ""}`;
    }
    default:
      return null;
  }
}

const USES: readonly string[] = ["through", "kiss", "score", "fill", "print"] satisfies PathUse[];

function lookOf(a: Readonly<Record<string, string>>): Omit<PathSet, "points" | "starts" | "closed"> {
  const filled = a.fill !== "none";
  const use = USES.includes(a["data-use"]) ? (a["data-use"] as PathUse) : filled ? "fill" : "through";
  const colour = /^#([0-9a-f]{6})$/i.exec((use === "fill" ? a.fill : a.stroke) ?? "");
  const name = a.id ?? (use === "fill" ? "shapes" : "lines");
  const [power, speed] = [Number(a["data-power"]), Number(a["data-speed"])];
  return {
    ...{ name, use, colour: colour ? Number.parseInt(colour[1], 16) : 0 },
    ...(power >= 0 && speed > 0 ? { pass: { name, power, speed } } : {}),
  };
}

function lengthOf(text: string | undefined): number | null {
  const found = /^\s*([-+]?[\d.]+(?:e[-+]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? "");
  const unit = found && UNITS[found[2].toLowerCase()];
  return found && unit ? Number(found[1]) * unit : null;
}

const numbersOf = (text = ""): number[] =>
  (text.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);

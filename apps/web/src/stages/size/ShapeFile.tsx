import { DrawingError, type Drawing } from "@hardline/core/drawing/drawing";
import { pathData } from "@hardline/core/format/svg";
import { boxOf, countPaths, knotPathsOf, pathSetOf } from "@hardline/core/path/pathSet";
import { type PieceShape } from "@hardline/core/stage/size/settings";
import { FileButton } from "@mantine/core";
import field from "../../shared/fields/Field.module.css";
import { tellFault } from "../../shared/tell";
import { type BenchScene } from "../face";

interface Props {
  readonly shape: PieceShape;
  readonly set: BenchScene["set"];
  /** Of the artwork as it is turned, in pixels. */
  readonly artwork: { readonly width: number; readonly height: number };
}

/** Takes the piece's shape, and its size, from a drawing: what is cut to a die keeps the die's own measure. */
export function ShapeFile({ shape, set, artwork }: Props) {
  const take = async (file: File | null) => {
    if (!file) return;
    try {
      const drawing = await read(await file.text());
      set("size", shapeOf(drawing, shape, artwork));
    } catch (error) {
      tellFault(`${file.name} is no shape of a piece`, error);
    }
  };
  return (
    <FileButton onChange={take} accept=".svg,.dxf,image/svg+xml">
      {(props) => (
        <button {...props} type="button" className={field.link}>
          Shape from a drawing …
        </button>
      )}
    </FileButton>
  );
}

/** Readers of drawings are loaded with the first one. */
const read = async (text: string): Promise<Drawing> =>
  /^\s*</.test(text)
    ? (await import("@hardline/core/drawing/readSvg")).readSvgDrawing(text)
    : (await import("@hardline/core/drawing/readDxf")).readDxfDrawing(text);

/** The closed paths of a drawing as the piece, in the middle of the artwork, as wide as they are. */
function shapeOf(drawing: Drawing, now: PieceShape, artwork: Props["artwork"]): object {
  const paths = drawing.sets.flatMap((set) => knotPathsOf(set)).filter((p) => p.closed);
  const whole = pathSetOf({ name: "piece", use: "print", colour: 0 }, paths);
  const box = boxOf(whole);
  if (!box || countPaths(whole) === 0) throw new DrawingError("The drawing has no closed shape.");
  const d = pathData({ ...whole, points: whole.points.map((v, k) => v - (k % 2 === 0 ? box.x : box.y)) });
  const tall = box.height / box.width;
  const width = Math.min(1, artwork.height / artwork.width / tall);
  const height = (width * tall * artwork.width) / artwork.height;
  const [x, y] = [(1 - width) / 2, (1 - height) / 2];
  const given = now.kind === "path" ? now.box : [x, y, width, height];
  return {
    shape: { kind: "path", box: given.map((v) => Math.min(1, Math.round(v * 1e6) / 1e6)), d },
    widthMm: Math.round(box.width * 1e4) / 1e4,
    heightMm: undefined,
  };
}

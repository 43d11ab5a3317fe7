import { DrawingError, type Drawing } from "@hardline/core/drawing/drawing";
import { knotsFrom } from "@hardline/core/drawing/pathData";
import { type OverArtwork } from "@hardline/core/drawing/turnedOver";
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
  /** The artwork's own paths that the piece may be shaped by, over all of it. */
  readonly own: OverArtwork | null;
}

/** Takes the piece's shape, and its size, from a drawing: what is cut to a die keeps the die's own measure. */
export function ShapeFile({ shape, set, artwork, own }: Props) {
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
    <>
      {own && (
        <button type="button" className={field.link} onClick={() => set("size", shapeOver(own))}>
          Shape from the artwork's own paths
        </button>
      )}
      <FileButton onChange={take} accept=".svg,.dxf,image/svg+xml">
        {(props) => (
          <button {...props} type="button" className={field.link}>
            Shape from a drawing …
          </button>
        )}
      </FileButton>
    </>
  );
}

/** Closed paths that lie on the artwork as the piece, where they lie and as large as they are. */
function shapeOver({ d, widthMm, heightMm }: OverArtwork): object {
  const paths = knotsFrom(d).filter((path) => path.closed);
  const { x, y, width, height } = boxOf(pathSetOf({ name: "piece", use: "print", colour: 0 }, paths))!;
  const share = (v: number): number => Math.min(1, Math.max(0, Math.round(v * 1e6) / 1e6));
  const [left, top] = [share(x / widthMm), share(y / heightMm)];
  const box = [left, top, Math.min(1 - left, width / widthMm), Math.min(1 - top, height / heightMm)].map(
    share,
  );
  const moved = paths.map((path) => ({
    ...path,
    knots: path.knots.map((knot) => ({ ...knot, at: [knot.at[0] - x, knot.at[1] - y] as const })),
  }));
  return {
    shape: { kind: "path", box, d: pathData(pathSetOf({ name: "piece", use: "print", colour: 0 }, moved)) },
    widthMm: Math.round(width * 1e4) / 1e4,
    heightMm: undefined,
  };
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

import { type ArtworkView } from "@hardline/contract";
import { type PieceShape } from "@hardline/core/stage/size/settings";
import { Sliding } from "../../shared/fields/Field";
import { type BenchScene } from "../face";

export const SHAPES = [
  { value: "whole", label: "the whole picture" },
  { value: "round", label: "round or oval" },
  { value: "rectangle", label: "rectangle" },
  { value: "rounded", label: "rounded rectangle" },
];

/** What the menu offers now: a shape from a file is chosen by its file. */
export const shapesFor = (shape: PieceShape) =>
  shape.kind === "path" ? [...SHAPES, { value: "path", label: "from a drawing" }] : SHAPES;

type Shaped = Exclude<PieceShape, { kind: "whole" }>;

/** A shape of another kind keeps its place; the first one is as large as fits, round pieces being circles. */
export function shapeFor(kind: string, shape: PieceShape, { width, height }: ArtworkView): object {
  if (kind === "whole") return { kind };
  if (kind === "path") return shape;
  if (shape.kind !== "whole") return { kind, box: shape.box };
  const side = Math.min(width, height);
  const [w, h] = kind === "round" ? [side / width, side / height] : [1, 1];
  return { kind, box: [(1 - w) / 2, (1 - h) / 2, w, h].map((v) => Math.round(v * 1e6) / 1e6) };
}

interface Props {
  readonly shape: Shaped;
  readonly set: BenchScene["set"];
}

/** Where the piece lies on the artwork: its size and place, in percent of what there is. */
export function PieceBox({ shape, set }: Props) {
  const [x, y, w, h] = shape.box;
  const put = (next: readonly [number, number, number, number]) =>
    set("size", { shape: { ...shape, box: next.map((v) => Math.round(v * 1e6) / 1e6) } });
  const [roomX, roomY] = [1 - w, 1 - h];
  const percent = (share: number) => Math.round(share * 100);
  /** Wider or narrower in proportion, about its middle. */
  const resize = (share: number) => {
    const grow = Math.min(share / w, 1 / h);
    const [nw, nh] = [w * grow, h * grow];
    const within = (v: number, room: number) => Math.min(Math.max(0, room), Math.max(0, v));
    put([within(x + (w - nw) / 2, 1 - nw), within(y + (h - nh) / 2, 1 - nh), nw, nh]);
  };
  return (
    <>
      <Sliding
        label="As wide as"
        of="shape.box.2"
        scale={100}
        unit="%"
        value={percent(w)}
        min={5}
        max={100}
        step={1}
        change={(v) => resize(v / 100)}
      />
      {shape.kind !== "round" && (
        <Sliding
          label="As high as"
          of="shape.box.3"
          scale={100}
          unit="%"
          value={percent(h)}
          min={5}
          max={100}
          step={1}
          change={(v) => put([x, Math.min(y, 1 - v / 100), w, v / 100])}
        />
      )}
      {roomX > 0.005 && (
        <Sliding
          label="Across"
          of="shape.box.0"
          scale={100}
          unit="%"
          value={percent(x / roomX)}
          min={0}
          max={100}
          step={1}
          change={(v) => put([(v / 100) * roomX, y, w, h])}
        />
      )}
      {roomY > 0.005 && (
        <Sliding
          label="Down"
          of="shape.box.1"
          scale={100}
          unit="%"
          value={percent(y / roomY)}
          min={0}
          max={100}
          step={1}
          change={(v) => put([x, (v / 100) * roomY, w, h])}
        />
      )}
      {shape.kind === "rounded" && (
        <Sliding
          label="Corners"
          of="shape.cornerMm"
          unit="mm"
          decimals={1}
          value={shape.cornerMm}
          min={0}
          max={50}
          step={0.5}
          change={(cornerMm) => set("size", { shape: { ...shape, cornerMm } })}
        />
      )}
    </>
  );
}

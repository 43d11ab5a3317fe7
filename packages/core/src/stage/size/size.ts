import { figure } from "../../inspect/check";
import { copied } from "../../maths/copy";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { knotsFrom } from "../../drawing/pathData";
import { coverOfRings } from "../../path/cover";
import { ringsOf } from "../../path/flatten";
import { WHOLE_FRAME } from "../../path/frame";
import { rectangleKnots, roundKnots } from "../../path/outline";
import { pathSetOf, type KnotPath } from "../../path/pathSet";
import { scaledPath } from "../../path/scaled";
import { evenOdd } from "../../polygon/clip";
import { cropped } from "../../raster/crop";
import { type Rgba } from "../../raster/types";
import { type FilterName } from "../../resample/filters";
import { resampleRgba, resampleRows } from "../../resample/resample";
import { partOf } from "../../resample/rows";
import { type Placement } from "../../result/finish";
import { type Picture } from "../../result/result";
import { inspectBy } from "../checks";
import { defineStage } from "../stage";
import { SIZE_CHECKS } from "./checks";
import { cutDown, finishOf } from "./finish";
import { sizeTurnedOn } from "./turnedOn";
import { sizeSettings, type PieceShape, type SizeSettings } from "./settings";

/** Brings the artwork to the finish size at the machine's dots per inch. */
export const size = defineStage({
  id: "size",
  title: "Size",
  settings: sizeSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "picture",
  turn: ({ paper, straighten, turn, mirror }) => ({ ...(paper && { paper }), straighten, turn, mirror }),
  turnedOn: sizeTurnedOn,
  place(settings: SizeSettings, facts) {
    const finish = finishOf(facts, settings);
    if (settings.shape.kind === "whole") return { finish, frame: WHOLE_FRAME };
    const { x, y, width, height } = cutDown(facts, settings.shape);
    const [w, h] = [facts.width, facts.height];
    const frame = { x: x / w, y: y / h, width: width / w, height: height / h };
    return { finish, frame, outline: outlineOf(settings.shape, finish.widthMm, finish.heightMm) };
  },
  *run({ picture }, settings, { place }): Work<Picture> {
    const { resample, shape } = settings;
    const { finish } = place;
    const whole = shape.kind === "whole";
    const part = whole ? picture.colour : cropped(picture.colour, cutDown(picture.colour, shape));
    const filter = filterOf(resample);
    const sized = yield* workSlice(resampleRgba(part, finish.widthPx, finish.heightPx, filter), 0, 0.9);
    return yield* workSlice(cutToShape(sized, settings, place), 0.9, 1);
  },
  *passThrough(rows, settings, place): Work<Picture> {
    const { finish } = place;
    const { resample, shape } = settings;
    const part = shape.kind === "whole" ? rows : partOf(rows, cutDown(rows, shape));
    const filter = filterOf(resample);
    const sized = yield* workSlice(resampleRows(part, finish.widthPx, finish.heightPx, filter), 0, 0.9);
    return yield* workSlice(cutToShape(sized, settings, place), 0.9, 1);
  },
  *inspect({ finish }, _taken, _settings, { machineDotsPerInch: machine }, { facts }) {
    return yield* inspectBy(SIZE_CHECKS, { facts, finish, machine });
  },
  readings: { sourcePerInch: { label: "Source", unit: "px/in" } },
  limits: ["machineDotsPerInch"],
  summary: ({ widthMm, heightMm, dotsPerInch, resample, shape, paper, straighten, turn, mirror }) => {
    const side =
      widthMm !== undefined
        ? `${figure(widthMm)} mm wide`
        : heightMm !== undefined
          ? `${figure(heightMm)} mm high`
          : "pixels as they are";
    const how = { lanczos3: "", bicubic: ", bicubic", box: ", area average", none: "" }[resample];
    const turned =
      (paper
        ? `, ${paper.curled ? "curled " : ""}paper made flat${paper.light ? ", light evened" : ""}`
        : "") +
      (straighten ? `, straightened ${figure(straighten, 1)}°` : "") +
      (turn ? `, turned ${turn}°` : "") +
      (mirror ? ", mirrored" : "");
    return `${side}, ${figure(dotsPerInch)} dots/in${how}${shape.kind === "whole" ? "" : `, ${shape.kind} piece`}${turned}`;
  },
});

/** A drawing made of shapes already comes at the finish size; "none" asks for the pixels as they are. */
const filterOf = (resample: SizeSettings["resample"]): FilterName => (resample === "none" ? "box" : resample);

function* cutToShape(sized: Rgba, { shape }: SizeSettings, { finish, frame }: Placement): Work<Picture> {
  const colour = yield* shaped(sized, shape, dotsPerMm(finish));
  return { kind: "picture", finish, frame, colour, cleared: null };
}

/** Curves are cut into straight pieces that are off by less than this, in pixels. */
const FLAT_PX = 0.01;

/** The piece's outline in mm, from its own top left. */
function outlineOf(shape: PieceShape, width: number, height: number): KnotPath[] {
  if (shape.kind === "path") return knotsFrom(shape.d).filter((path) => path.closed);
  const corner = shape.kind === "rounded" ? shape.cornerMm : 0;
  const knots =
    shape.kind === "round"
      ? roundKnots(0, 0, width, height)
      : rectangleKnots(0, 0, width, height, corner, corner);
  return [{ knots, closed: true }];
}

/** The picture with what lies outside the piece cleared. */
function* shaped(picture: Rgba, shape: PieceShape, perMm: number): Work<Rgba> {
  if (shape.kind === "whole" || shape.kind === "rectangle") return picture;
  const { width, height } = picture;
  const outline = outlineOf(shape, width / perMm, height / perMm).map((path) => scaledPath(path, perMm));
  const lines = ringsOf(pathSetOf({ name: "piece", use: "print", colour: 0 }, outline), FLAT_PX);
  const rings = shape.kind === "path" ? evenOdd(lines) : lines;
  const cover = yield* coverOfRings(rings, width, height);
  const data = yield* copied(picture.data);
  yield* inStretches(cover.length, (from, to) => {
    for (let i = from, o = 4 * from + 3; i < to; i++, o += 4)
      data[o] = Math.round((data[o] * cover[i]) / 255);
  });
  return { width, height, data };
}

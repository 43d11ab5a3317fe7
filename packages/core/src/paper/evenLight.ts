import { lightOn, lightRow, type Light } from "../clear/paper";
import { rowsAtOnce, workSlice, type Work } from "../maths/work";
import { cropped } from "../raster/crop";
import { type Rgba } from "../raster/types";

/** Share of the shorter side along the rim where the paper's own edge is mixed with what lies beyond. */
const RIM = 0.008;

/** A paper as it would be were the light everywhere as it is where most of it falls: by what Lift takes for that light. */
export function* evenLight(picture: Rgba): Work<Rgba> {
  const { width, height, data } = picture;
  const rim = Math.min(width, height) < 64 ? 0 : Math.max(2, Math.round(RIM * Math.min(width, height)));
  const inner = { x: rim, y: rim, width: width - 2 * rim, height: height - 2 * rim };
  const light = yield* workSlice(lightOn(cropped(picture, inner)), 0, 0.5);
  const out = new Uint8Array(data.length);
  const atOnce = rowsAtOnce(4 * width);
  for (let y = 0; y < height; y += atOnce) {
    yield 0.5 + (0.5 * y) / height;
    evenRows(picture, light, rim, y, Math.min(height, y + atOnce), out);
  }
  return { width, height, data: out };
}

function evenRows(
  { width, height, data }: Rgba,
  light: Light,
  rim: number,
  begin: number,
  end: number,
  out: Uint8Array,
): void {
  const [across, down] = [width - 2 * rim, height - 2 * rim];
  const lit = new Float64Array(across);
  for (let y = begin, o = begin * width * 4; y < end; y++) {
    lightRow(light, across, down, Math.min(down - 1, Math.max(0, y - rim)), lit);
    for (let x = 0; x < width; x++, o += 4) {
      const share = lit[Math.min(across - 1, Math.max(0, x - rim))];
      out[o] = Math.min(255, data[o] / share + 0.5);
      out[o + 1] = Math.min(255, data[o + 1] / share + 0.5);
      out[o + 2] = Math.min(255, data[o + 2] / share + 0.5);
      out[o + 3] = data[o + 3];
    }
  }
}

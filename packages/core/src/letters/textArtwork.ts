import { strToU8 } from "fflate";
import { pathData } from "../format/svg";
import { boxOf, pathSetOf } from "../path/pathSet";
import { setText } from "./setText";

/** Height of a capital, in mm. */
const CAPITAL_MM = 10;
const MARGIN_MM = 1;

/** A line of text as a drawing: black shapes of the shipped font, with a little room round them. */
export function textArtwork(text: string): Uint8Array {
  const { paths } = setText(text.normalize("NFC"), CAPITAL_MM);
  const set = pathSetOf({ name: "text", use: "fill", colour: 0 }, paths);
  const box = boxOf(set) ?? { x: 0, y: 0, width: CAPITAL_MM, height: CAPITAL_MM };
  const [x, y] = [box.x - MARGIN_MM, box.y - MARGIN_MM];
  const [w, h] = [box.width + 2 * MARGIN_MM, box.height + 2 * MARGIN_MM];
  return strToU8(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${x} ${y} ${w} ${h}"><path fill="#000000" fill-rule="nonzero" d="${pathData(set)}"/></svg>`,
  );
}

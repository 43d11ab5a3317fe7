import { standsOn } from "@hardline/core/edit/operations/text";
import { typefaceOf, readyFonts } from "@hardline/core/letters/shelf";
import { onPiece } from "@hardline/core/path/frame";
import { type Rect } from "@hardline/core/raster/types";
import { setWords } from "@hardline/core/letters/words";
import { drive } from "@hardline/core/maths/work";
import { type FieldValues, fieldTexts } from "@hardline/core/route/fields";
import { type Route } from "@hardline/core/route/route";
import { pathData } from "@hardline/core/format/svg";
import { pathSetOf } from "@hardline/core/path/pathSet";
import { breath } from "../../../shared/breath";
import { servedFonts } from "../../../api/servedFonts";

/** How the words of one cell come out. */
export interface Tried {
  readonly row: number;
  readonly field: string;
  readonly text: string;
  readonly lines: readonly string[];
  /** Height of a capital as it comes out. */
  readonly capitalMm: number;
  readonly fits: boolean;
  readonly missing: readonly string[];
}

/** Sets every cell of a table in the words that it fills, to find what does not fit before anything is burned. */
export async function tryTable(
  route: Route,
  rows: readonly FieldValues[],
  on: Piece,
  told: (share: number) => void,
): Promise<Tried[]> {
  const texts = fieldTexts(route);
  await readyFonts(
    texts.map((t) => t.font),
    servedFonts,
  );
  const tried: Tried[] = [];
  for (const [row, values] of rows.entries()) {
    for (const text of texts) {
      const value = values[text.field]?.trim();
      if (!value) continue;
      const how = { ...text, text: value, on: standsOn(text.along) };
      const made = await drive(setWords(typefaceOf(text.font)!, how), { pause: breath });
      const { lines, capitalMm, missing } = made;
      const fits = made.fits && isOn(made.box, text, on);
      tried.push({ row, field: text.field, text: value, lines, capitalMm, fits, missing });
    }
    told((row + 1) / rows.length);
  }
  return tried;
}

type Text = ReturnType<typeof fieldTexts>[number];

/** The piece that words are on. */
type Piece = Parameters<typeof onPiece>[1];

/** Whether words lie on the piece. Those that are turned, or on a path, are only told at the bench. */
function isOn(box: Rect | null, { at, along, turnDegrees }: Text, on: Piece): boolean {
  if (!box || along?.kind === "path" || turnDegrees !== 0) return true;
  const [x, y] = onPiece(at, on);
  const { widthMm, heightMm } = on.finish;
  return (
    x + box.x >= 0 && y + box.y >= 0 && x + box.x + box.width <= widthMm && y + box.y + box.height <= heightMm
  );
}

/** The words of a cell as a drawing, and the box round it in mm. */
export async function pictureOf(route: Route, { field, text }: Tried) {
  const own = fieldTexts(route).find((t) => t.field === field)!;
  const how = { ...own, text, on: standsOn(own.along) };
  const { paths, isLines, box } = await drive(setWords(typefaceOf(own.font)!, how), { pause: breath });
  const d = pathData(pathSetOf({ name: "", use: "fill", colour: 0 }, paths));
  return { d, isLines, box: box ?? { x: 0, y: 0, width: 1, height: 1 }, room: own.box };
}

import { labOfHex } from "../../film/glareLab";
import { anythingOf, chokedBy, moveEdge, trapped } from "../../film/moveEdge";
import { type Ink } from "../../film/ink";
import { underbaseOf, type Inside } from "../../film/underbase";
import { workSlice, type Work } from "../../maths/work";
import { dotsPerMm } from "../../maths/units";
import { applyTable } from "../../tone/levels";
import { type Finish } from "../../result/finish";
import { type FilmsSettings } from "./settings";

/** What of the inks the shape of all that is printed hangs on, besides how the art is parted. */
export const outlineOfInks = ({ trapMm }: FilmsSettings, inks: readonly Ink[]): string =>
  JSON.stringify([trapMm, inks.map(({ role, spreadMm }) => (role === "underbase" ? 0 : spreadMm))]);

/** What of the inks their arrangement hangs on. */
export const arrangementOf = ({ trapMm }: FilmsSettings, inks: readonly Ink[]): string =>
  JSON.stringify([trapMm, inks.map(({ spreadMm, strength, under }) => [spreadMm, strength, under])]);

/**
 * Plates as they are printed: lighter ones trapped under darker, edges spread or choked, the white laid under the others
 * and pulled in.
 *
 * @param planes  as `separated` gives them
 * @param inside  squared distances to the outside of what is printed
 */
export function* arranged(
  planes: readonly Uint8Array[],
  settings: FilmsSettings,
  inks: readonly Ink[],
  finish: Finish,
  inside: Inside,
): Work<Uint8Array[]> {
  const { separate, trapMm } = settings;
  const { widthPx: width, heightPx: height } = finish;
  const perMm = dotsPerMm(finish);
  const own = planes.map((plane) => plane);
  const flat = separate === "flat" || separate === "black";
  const inked = inks.flatMap((ink, k) => (ink.role === "ink" ? [k] : []));
  if (trapMm > 0) {
    const lightness = inked.map((k) => labOfHex(inks[k].colour).l);
    const wider = yield* workSlice(
      trapped(
        inked.map((k) => own[k]),
        lightness,
        width,
        height,
        trapMm * perMm,
      ),
      0,
      0.4,
    );
    inked.forEach((k, n) => (own[k] = wider[n]));
  }
  for (const [k, { role, spreadMm }] of inks.entries())
    if (role !== "underbase" && spreadMm !== 0)
      own[k] = yield* workSlice(moveEdge(own[k], width, height, spreadMm * perMm), 0.4, 0.6);
  for (const [k, { role, spreadMm, strength }] of inks.entries()) {
    if (role !== "underbase") {
      if (strength < 1) own[k] = yield* weaker(own[k], strength);
      continue;
    }
    // What is white in the art, and printed by the highlight, lies over the underbase too.
    const over = inks.flatMap((ink, j) =>
      ink.role === "underbase" || ink.flat ? [] : [{ plane: own[j], under: ink.under }],
    );
    if (flat) {
      const under = underbaseOf(over, planes[k], strength, width * height, -spreadMm * perMm, inside);
      own[k] = yield* workSlice(under, 0.6, 0.9);
      if (spreadMm > 0) own[k] = yield* workSlice(moveEdge(own[k], width, height, spreadMm * perMm), 0.9, 1);
      continue;
    }
    const white = strength < 1 ? yield* weaker(own[k], strength) : own[k];
    own[k] =
      spreadMm < 0
        ? yield* workSlice(
            pulledIn(
              white,
              over.map((o) => o.plane),
              -spreadMm * perMm,
              inside,
            ),
            0.6,
            1,
          )
        : yield* moveEdge(white, width, height, spreadMm * perMm);
  }
  return own;
}

/** Of many tones: the white is pulled in from where nothing at all is printed. */
function* pulledIn(
  white: Uint8Array,
  all: readonly Uint8Array[],
  byPx: number,
  inside: Inside,
): Work<Uint8Array> {
  const squared = yield* workSlice(
    inside(() => anythingOf([white, ...all])),
    0,
    0.9,
  );
  return yield* workSlice(chokedBy(white, squared, byPx), 0.9, 1);
}

/** The same plate at the same strength is asked for again while another's is dragged. */
const weakened = new WeakMap<Uint8Array, { readonly strength: number; readonly plane: Uint8Array }>();

function* weaker(plane: Uint8Array, strength: number): Work<Uint8Array> {
  const known = weakened.get(plane);
  if (known?.strength === strength) return known.plane;
  const table = Uint8Array.from({ length: 256 }, (_, g) => 255 - Math.round((255 - g) * strength));
  const { data } = yield* applyTable({ width: plane.length, height: 1, data: plane }, table);
  weakened.set(plane, { strength, plane: data });
  return data;
}

import { beatsOf, overtones, ruledScreen, type Beat, type Ruled } from "../../film/moire";
import { type Ruling } from "../../dots/method";
import { type Ink } from "../../film/ink";
import { type Finish } from "../../result/finish";
import { figure, type Check } from "../check";

/** Longer than this a beat is a slow change that nobody takes for a pattern, unless two screens lie on each other. */
const LONGEST_MM = 60;

/**
 * Screens that make a pattern with each other, or with the mesh that they are printed through.
 * @param inks  each with the lines of its screen, where it has any
 */
export function checkBeats(
  inks: readonly { readonly ink: Ink; readonly ruling: Ruling | undefined }[],
  finish: Finish,
): Check {
  const ruled = inks.flatMap(({ ink, ruling }) =>
    ruling ? [{ ink, own: ruledScreen(ink.name, ruling.linesPerInch, ruling.angle) }] : [],
  );
  const pairs: [Ruled, Ruled][] = [];
  for (const [k, { own }] of ruled.entries())
    for (const { own: other } of ruled.slice(k + 1)) pairs.push([own, other]);
  const meshes = ruled.flatMap(({ ink, own }): [Ruled, Ruled][] =>
    ink.meshPerCm
      ? [
          [
            overtones(own),
            { name: `its mesh of ${figure(ink.meshPerCm)}`, perMm: ink.meshPerCm / 10, angle: 0, orders: 1 },
          ],
        ]
      : [],
  );
  const longest = Math.max(LONGEST_MM, finish.widthMm, finish.heightMm);
  const found = beatsOf([...pairs, ...meshes], longest);
  const worst = found[0];
  const words = (beat: Beat): string =>
    beat.mm === Infinity
      ? `${beat.one} and ${beat.other} lie on each other: the least misregister changes colours`
      : `${beat.one} and ${beat.other} beat every ${figure(beat.mm)} mm`;
  return {
    id: "beats",
    level: found.length > 0 ? "look" : "fine",
    value: worst === undefined ? 0 : Math.round(10 * Math.min(worst.mm, longest)) / 10,
    unit: "mm",
    text: found.length > 0 ? "Screens beat" : "Screens do not beat",
    detail:
      found.length > 0
        ? `${found.slice(0, 3).map(words).join("; ")}.`
        : ruled.length > 1
          ? "No pair makes a pattern longer than its rosette."
          : "No two screens lie over each other.",
    places: [],
  };
}

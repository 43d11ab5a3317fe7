import { MM_PER_INCH } from "../maths/units";
import { type Work } from "../maths/work";
import { type Arrangement, type NestPiece, type Placing } from "./arrangement";
import { checkSheet, usedShare } from "./checks";
import { type ArrangedSheets } from "./files";
import { nest } from "./nest";
import { type SheetPiece } from "./piece";
import { spacingOf, stockOf, turnsOf, type SheetReach, type SheetSettings } from "./sheetFile";
import { onDots } from "./sheetJob";

/** Pieces as they are arranged, with how often each is wanted. */
export const nestPieces = (
  pieces: readonly Pick<SheetPiece, "outline" | "box">[],
  counts: readonly number[],
  settings: Pick<SheetSettings, "turn" | "mirror">,
): NestPiece[] =>
  pieces.map(({ outline, box }, k) => ({
    ...{ outline, box, count: counts[k], turns: turnsOf(settings) },
    mirror: settings.mirror,
  }));

/** Pieces that have dots lie on the sheet's own, and so may come nearer by a dot. */
function spacingWith(pieces: readonly Pick<SheetPiece, "bitmap">[], settings: SheetSettings): number {
  const dots = pieces.flatMap(({ bitmap }) => (bitmap ? [MM_PER_INCH / bitmap.dotsPerInch] : []));
  const spacing = spacingOf(settings);
  // Rectangles that share a line touch.
  return settings.commonLines ? spacing : spacing + Math.max(0, ...dots);
}

export interface ArrangeOptions {
  readonly reach?: SheetReach;
  readonly rounds?: number;
  readonly seed?: number;
  readonly better?: (arrangement: Arrangement) => void;
}

/** Pieces arranged on the sheets of their stock; those put by hand stay. */
export function* arrange(
  pieces: readonly Pick<SheetPiece, "outline" | "box" | "bitmap">[],
  counts: readonly number[],
  settings: SheetSettings,
  { reach, rounds = settings.rounds, seed, better }: ArrangeOptions = {},
): Work<Arrangement> {
  const wanted = nestPieces(pieces, counts, settings);
  const kept: Placing[] = settings.kept
    .filter((p) => p.piece < pieces.length && p.sheet < settings.stock.sheets)
    .map((p) => ({ ...p, kept: true as const }));
  const snapped = (found: Arrangement): Arrangement => ({
    ...found,
    placings: found.placings.map((p) => onDots(pieces[p.piece], p)),
  });
  const spacingMm = spacingWith(pieces, settings);
  const found = yield* nest(wanted, stockOf(settings, reach), {
    ...{ spacingMm, rounds, seed, kept },
    better: (a) => better?.(snapped(a)),
  });
  return snapped(found);
}

/** What is known of arranged sheets. */
export function sheetsOf(
  name: string,
  pieces: readonly SheetPiece[],
  counts: readonly number[],
  settings: SheetSettings,
  { placings }: Pick<Arrangement, "placings">,
  { reach, readsMarks }: { readonly reach?: SheetReach; readonly readsMarks?: boolean } = {},
): ArrangedSheets {
  const wanted = nestPieces(pieces, counts, settings);
  const all = counts.reduce((sum, n) => sum + n, 0);
  const printed = pieces.some((p) => p.print);
  return {
    ...{ name, settings, pieces, placings },
    checks: checkSheet(wanted, placings, settings, all, { reach, readsMarks, printed }),
    used: usedShare(wanted, placings, settings),
    left: counts.map((n, k) => n - placings.filter((p) => p.piece === k).length),
  };
}

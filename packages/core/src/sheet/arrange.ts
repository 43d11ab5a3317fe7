import { MM_PER_INCH } from "../maths/units";
import { type Work } from "../maths/work";
import { type Arrangement, type NestPiece, type Placing } from "./arrangement";
import { checkSheet, usedShare } from "./checks";
import { type ArrangedSheets } from "./files";
import { giveWay } from "./giveWay";
import { Field, nest } from "./nest";
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

/** Pieces that have dots lie on the sheet's own, and so may come nearer by a dot; rectangles that share a line touch. */
function slackOf(pieces: readonly Pick<SheetPiece, "bitmap">[], { commonLines }: SheetSettings): number {
  const dots = pieces.flatMap(({ bitmap }) => (bitmap ? [MM_PER_INCH / bitmap.dotsPerInch] : []));
  return commonLines ? 0 : Math.max(0, ...dots);
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
  const spacingMm = spacingOf(settings) + slackOf(pieces, settings);
  const found = yield* nest(wanted, stockOf(settings, reach), {
    ...{ spacingMm, rounds, seed, kept },
    better: (a) => better?.(snapped(a)),
  });
  return snapped(found);
}

/** Lays copies by hand, again and again, on the sheets of a stock. */
export class Laying {
  private readonly wanted: readonly NestPiece[];
  private readonly field: Field;
  private readonly slackMm: number;

  constructor(
    private readonly pieces: readonly Pick<SheetPiece, "outline" | "box" | "bitmap">[],
    settings: SheetSettings,
    reach?: SheetReach,
  ) {
    const each = pieces.map(() => 1);
    this.wanted = nestPieces(pieces, each, settings);
    this.slackMm = slackOf(pieces, settings);
    this.field = new Field(this.wanted, stockOf(settings, reach), spacingOf(settings) + this.slackMm);
  }

  /** One copy where a hand wants it, and the others out of its way. */
  *lay(placings: readonly Placing[], at: number, to: Placing): Work<Placing[]> {
    const snapped = onDots(this.pieces[to.piece], to);
    const near = Math.max(1e-6, this.slackMm / 2);
    const laid = yield* giveWay(this.wanted, this.field, placings, { at, to: snapped }, near);
    return laid.map((p, k) => (p === placings[k] ? p : onDots(this.pieces[p.piece], p)));
  }
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

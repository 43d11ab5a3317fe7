import { type Check } from "@hardline/core/inspect/check";
import { drive } from "@hardline/core/maths/work";
import { arrange, Laying, nestPieces } from "@hardline/core/sheet/arrange";
import { type Arrangement, type Placing } from "@hardline/core/sheet/arrangement";
import { checkSheet, usedShare } from "@hardline/core/sheet/checks";
import { type SheetReach, type SheetSettings } from "@hardline/core/sheet/sheetFile";
import { expose } from "comlink";
import { pause } from "../engine/host";

/** What of a piece is needed to lay it. */
export interface LaidPiece {
  readonly outline: readonly number[];
  readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly dotsPerInch: number | null;
}

const ringed = (pieces: readonly LaidPiece[]) =>
  pieces.map(({ outline, box, dotsPerInch }) => ({
    ...{ outline: Float64Array.from(outline), box },
    // Only how large its dots are matters here.
    bitmap: dotsPerInch
      ? { bits: { width: 0, height: 0, stride: 0, data: new Uint8Array() }, dotsPerInch }
      : null,
  }));

export interface Measured {
  readonly used: number;
  readonly checks: readonly Check[];
}

const TELL_MS = 150;
let stopped = { aborted: false };

/** Arranges pieces beside the page. */
const nester = {
  async arrange(
    pieces: readonly LaidPiece[],
    counts: readonly number[],
    settings: SheetSettings,
    reach: SheetReach | undefined,
    told: (progress: number, better: Arrangement | null) => void,
  ): Promise<Arrangement> {
    stopped.aborted = true;
    const signal = (stopped = { aborted: false });
    let best: Arrangement | null = null;
    let last = performance.now();
    // The page is told a few times a second, not at every slice.
    const progress = (share: number): void => {
      if (performance.now() - last < TELL_MS) return;
      last = performance.now();
      told(share, null);
    };
    const work = arrange(ringed(pieces), counts, settings, {
      ...{ reach, seed: 1 },
      better: (a) => {
        best = a;
        told(-1, a);
      },
    });
    try {
      return await drive(work, { signal, pause, progress });
    } catch (error) {
      if (best && signal.aborted) return best;
      throw error;
    }
  },
  stop(): void {
    stopped.aborted = true;
  },
  /** What a sheet is looked at for, and how much of its stock is used. */
  measure(
    pieces: readonly LaidPiece[],
    counts: readonly number[],
    settings: SheetSettings,
    placings: readonly Placing[],
    about: Parameters<typeof checkSheet>[4],
  ): Measured {
    const wanted = nestPieces(ringed(pieces), counts, settings);
    const all = counts.reduce((sum, n) => sum + n, 0);
    return {
      used: usedShare(wanted, placings, settings),
      checks: checkSheet(wanted, placings, settings, all, about),
    };
  },
  /** One copy dragged, and the others out of its way. */
  async drag(
    pieces: readonly LaidPiece[],
    settings: SheetSettings,
    reach: SheetReach | undefined,
    placings: readonly Placing[],
    moved: { readonly at: number; readonly to: Placing },
  ): Promise<Placing[]> {
    const { rounds: _, kept: __, ...room } = settings;
    const key = JSON.stringify([room, reach, pieces.map((p) => [p.box, p.outline.length, p.dotsPerInch])]);
    if (laying?.key !== key) laying = { key, of: new Laying(ringed(pieces), settings, reach) };
    return drive(laying.of.lay(placings, moved.at, moved.to), { pause });
  },
};

/** Of the sheet that is at hand: it knows which outlines fit beside which. */
let laying: { readonly key: string; readonly of: Laying } | null = null;

export type Nester = typeof nester;
expose(nester);

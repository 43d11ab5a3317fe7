import { type Ink } from "../../film/ink";
import { keptBeside } from "../../film/knockOut";
import { type Check } from "../../inspect/check";
import { type Limits } from "../../inspect/limits";
import { checkFilmWidth, checkPlates, checkTotalInk } from "../../inspect/films/amounts";
import { checkBeats } from "../../inspect/films/moire";
import { checkFineDots } from "../../inspect/films/fineDots";
import { checkOpenings } from "../../inspect/films/openings";
import { checkPeeking } from "../../inspect/films/peeking";
import { checkTint } from "../../inspect/films/tint";
import { inStretches, workSlice, type Work } from "../../maths/work";
import { countMarks } from "../../raster/bits";
import { printError } from "../../film/printError";
import { atOnce, type StageCheck } from "../checks";
import { type Picture, type Plates } from "../../result/result";
import { type Finish } from "../../result/finish";
import { rulingOf } from "./dotting";
import { MARGIN_MM } from "./margin";
import { type FilmsSettings } from "./settings";

interface About {
  readonly result: Plates;
  /** The art that was parted. */
  readonly picture: Picture;
  readonly settings: FilmsSettings;
  readonly limits: Limits;
}

/** What each plate prints, before it is made into dots: greys, 255 = bare. */
const planesOf = ({ result }: About): Uint8Array[] => result.print!.tones.map((t) => t.data);
const inFlat = ({ settings }: About): boolean => settings.separate === "flat";

/** Everything that is looked at in a set of films. */
export const FILMS_CHECKS: readonly StageCheck<About>[] = [
  {
    cost: 16,
    *find({ result: { plates, print }, picture, limits }) {
      const named = plates.map(({ name }, k) => ({ name, tone: print!.tones[k] }));
      return { checks: [yield* checkTint(named, picture.colour.data, picture.finish, limits.areaMm2)] };
    },
  },
  {
    cost: 16,
    *find(about) {
      const { picture, settings, limits, result } = about;
      const { whiteSeen, chosen } = result.print!;
      return {
        checks: yield* peeking(picture, whiteSeen, planesOf(about), chosen, settings, picture.finish, limits),
      };
    },
  },
  {
    cost: 8,
    applies: inFlat,
    *find(about) {
      const { picture, settings, limits, result } = about;
      const inked = planesOf(about).filter((_, k) => result.print!.chosen[k].role === "ink");
      const openings = yield* checkOpenings(inked, picture.finish, limits.registerMm);
      return { checks: [trappable(openings, settings, limits)] };
    },
  },
  {
    cost: 24,
    *find({ result: { plates, finish, print }, limits }) {
      return { checks: [yield* checkFineDots(plates, print!.chosen, finish, limits.dotMm)] };
    },
  },
  {
    cost: 8,
    *find(about) {
      return {
        checks: [yield* checkTotalInk(planesOf(about), about.picture.finish, about.settings.totalInk)],
      };
    },
  },
  {
    cost: 8,
    *find({ result: { plates, finish } }) {
      return { checks: [yield* checkPlates(plates, finish)] };
    },
  },
  atOnce(({ result, settings, picture }) => {
    const ruled = result.print!.chosen.map((ink) => ({ ink, ruling: rulingOf(ink, settings) }));
    return { checks: [checkBeats(ruled, picture.finish)] };
  }),
  atOnce(({ picture, settings, limits }) => ({
    checks: checkFilmWidth(picture.finish, settings.marks ? MARGIN_MM : 0, limits.filmMm),
  })),
];

/** Figures that say what a set of films is: how much of each plate, and how near the print comes to the art. */
export const FILMS_READINGS: StageCheck<About> = {
  cost: 20,
  *find({ result, settings }) {
    const { plates, finish, print } = result;
    // One black is not to look like the art.
    const error = settings.separate === "black" ? null : yield* printError(result);
    const areaMm2 = finish.widthMm * finish.heightMm;
    const dots = finish.widthPx * finish.heightPx;
    const counted = plates.map(({ name, bits, ink }) => {
      const share = countMarks(bits) / dots;
      const mm2 = share * areaMm2;
      return {
        name,
        colour: ink,
        percent: Math.round(share * 1e4) / 100,
        mm2: Math.round(mm2 * 100) / 100,
        // A square millimetre of a thousandth of a millimetre is a millionth of a millilitre.
        millilitres: Math.round(mm2 * settings.depositUm * 1e-2) / 1e4,
      };
    });
    return {
      readings: {
        plates: counted,
        ...(error
          ? { errorMean: Math.round(error.mean * 100) / 100, errorMost: Math.round(error.most * 100) / 100 }
          : {}),
        ...(print!.reason ? { reason: print!.reason } : {}),
      },
    };
  },
};

function* peeking(
  picture: Picture,
  whiteSeen: Uint8Array | null,
  planes: readonly Uint8Array[],
  inks: readonly Ink[],
  settings: FilmsSettings,
  finish: Finish,
  limits: Limits,
): Work<Check[]> {
  const at = inks.findIndex((i) => i.role === "underbase");
  if (at < 0) return [];
  const over = planes.filter((_, k) => inks[k].role !== "underbase");
  const seen =
    settings.separate === "flat" ? whiteSeen : yield* workSlice(meantWhite(picture, settings), 0, 0.2);
  const { check, needMm } = yield* checkPeeking(planes[at], over, seen, finish, limits.registerMm);
  if (check.level === "fine" || !Array.isArray(settings.inks)) return [check];
  const spreadMm = Math.max(-5, Math.round((inks[at].spreadMm - needMm) * 100) / 100);
  const change = { inks: settings.inks.map((ink, k) => (k === at ? { ...ink, spreadMm } : ink)) };
  return [{ ...check, repair: { label: `Choke the white ${Math.abs(spreadMm)} mm`, change } }];
}

/** Of many tones white is to be seen wherever there is art that is not the garment's own colour: greys, 0 = meant. */
function* meantWhite({ colour }: Picture, { garment }: FilmsSettings): Work<Uint8Array> {
  const colours = new Uint32Array(colour.data.buffer, colour.data.byteOffset, colour.width * colour.height);
  const seen = yield* keptBeside(colours, garment, { tolerance: NEAR, softness: 0 });
  yield* inStretches(seen.length, (from, to) => {
    for (let i = from; i < to; i++) seen[i] = colours[i] >>> 24 >= 128 && seen[i] > 0 ? 0 : 255;
  });
  return seen;
}

/** So near, in hundredths of OKLab, two colours are one. */
const NEAR = 8;

function trappable(check: Check, { trapMm }: FilmsSettings, { registerMm }: Limits): Check {
  const wanted = Math.min(5, registerMm);
  if (check.level === "fine" || trapMm >= wanted) return check;
  return { ...check, repair: { label: `Trap by ${wanted} mm`, change: { trapMm: wanted } } };
}

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
import { type Picture, type Plates } from "../../result/result";
import { type Finish } from "../../result/finish";
import { rulingOf } from "./dotting";
import { MARGIN_MM } from "./margin";
import { type FilmsSettings } from "./settings";

/** Everything that is checked of a set of films. */
export function* checksOf(
  result: Plates,
  picture: Picture,
  settings: FilmsSettings,
  limits: Limits,
): Work<Check[]> {
  const { plates, finish } = result;
  const { tones, chosen, whiteSeen } = result.print!;
  const own = picture.finish;
  const planes = tones.map((t) => t.data);
  const named = plates.map(({ name }, k) => ({ name, tone: tones[k] }));
  const list: Check[] = [];
  list.push(yield* workSlice(checkTint(named, picture.colour.data, own, limits.areaMm2), 0, 0.2));
  list.push(
    ...(yield* workSlice(peeking(picture, whiteSeen, planes, chosen, settings, own, limits), 0.2, 0.4)),
  );
  if (settings.separate === "flat") {
    const inked = planes.filter((_, k) => chosen[k].role === "ink");
    const openings = yield* workSlice(checkOpenings(inked, own, limits.registerMm), 0.4, 0.5);
    list.push(trappable(openings, settings, limits));
  }
  list.push(yield* workSlice(checkFineDots(plates, chosen, finish, limits.dotMm), 0.5, 0.8));
  list.push(yield* workSlice(checkTotalInk(planes, own, settings.totalInk), 0.8, 0.9));
  list.push(yield* workSlice(checkPlates(plates, finish), 0.9, 1));
  list.push(
    checkBeats(
      chosen.map((ink) => ({ ink, ruling: rulingOf(ink, settings) })),
      own,
    ),
  );
  list.push(...checkFilmWidth(own, settings.marks ? MARGIN_MM : 0, limits.filmMm));
  return list;
}

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

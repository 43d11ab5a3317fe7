import { numberOf } from "../../colour/oklab";
import { figure } from "../../inspect/check";
import { linePlate } from "../../dots/methods/line";
import { plateMethodOf } from "../../dots/methods";
import { plateDots } from "../../film/plateDots";
import { type Ink } from "../../film/ink";
import { squaredInside } from "../../film/moveEdge";
import { type Inside } from "../../film/underbase";
import { workSlice, type Work } from "../../maths/work";
import { newBits, type Bits } from "../../raster/types";
import { lessOf } from "../../result/reduce";
import { as, type Picture, type Plates } from "../../result/result";
import { type Finish } from "../../result/finish";
import { RouteError } from "../../settings/errors";
import { applyTable } from "../../tone/levels";
import { inspectBy } from "../checks";
import { defineStage, type Context } from "../stage";
import { arranged, arrangementOf, outlineOfInks } from "./arranged";
import { FILMS_CHECKS, FILMS_READINGS } from "./checks";
import { dottingOf, gainTable, screenOf } from "./dotting";
import { inksFor, type Chosen } from "./inks";
import { separated, separationOf } from "./separate";
import { filmsSettings, type FilmsSettings } from "./settings";

/** One film an ink: the art parted into inks, each plate arranged, and made into dots. */
export const films = defineStage({
  id: "films",
  title: "Films",
  settings: filmsSettings,
  takes: () => ({ picture: ["picture"] }) as const,
  gives: "plates",
  admit: (settings: FilmsSettings, { finish }) => {
    const { dotsPerInch } = filmFinish(settings, finish);
    if (!Array.isArray(settings.inks)) return;
    for (const [k, ink] of (settings.inks as readonly Ink[]).entries()) {
      const screen = screenOf(ink, settings);
      const refused = plateMethodOf(screen).plate.refuses?.(screen, dotsPerInch);
      if (refused)
        throw new RouteError("films", `inks.${k}.screen.${refused.setting}`, refused.value, refused.allowed);
    }
  },
  bytesADot: (settings: FilmsSettings, { finish }) => {
    const { inks } = settings;
    const count = Array.isArray(inks) ? inks.length : inks === "auto" ? USUAL_PLATES : inks;
    const times = Math.max(1, (settings.printerDotsPerInch ?? finish.dotsPerInch) / finish.dotsPerInch);
    // Tones as they are parted, as they are arranged, and as the result counts them; the dots twice over.
    return count * (3 + (2 * times * times) / 8);
  },
  *run({ picture }, settings, context): Work<Plates> {
    const made = yield* workSlice(tonesOf(picture, settings, context, false), 0, 0.6);
    const { finish, inks, planes } = made;
    const film = filmFinish(settings, finish);
    const times = film.widthPx / finish.widthPx;
    const kept = context.keep.get<KeptDots>("dots") ?? new Map<string, Bits>();
    const dots: KeptDots = new Map();
    const bits: Bits[] = [];
    for (const [k, ink] of inks.entries()) {
      const part = (at: number): number => 0.6 + (0.4 * (k + at)) / inks.length;
      const screen = screenOf(ink, settings);
      const name = JSON.stringify([k, made.name, screen, ink.gain, film.dotsPerInch]);
      let own = kept.get(name);
      if (!own) {
        const tone = { width: finish.widthPx, height: finish.heightPx, data: planes[k] };
        const table = gainTable(ink);
        const meant = table ? yield* workSlice(applyTable(tone, table), part(0), part(0.2)) : tone;
        const dotting = yield* workSlice(dottingOf(screen, k, film.dotsPerInch), part(0.2), part(0.4));
        own = yield* workSlice(plateDots(meant, times, dotting), part(0.4), part(1));
      }
      dots.set(name, own);
      bits.push(own);
    }
    context.keep.set(
      "dots",
      dots,
      bits.reduce((sum, b) => sum + b.data.length, 0),
    );
    return platesOf(picture, settings, made, film, bits);
  },
  /** Tones alone: what a screen shows of a print from afar. */
  *draft({ picture: given }, settings, context): Work<Plates> {
    // Several plates are several times the work of one picture, so they are made from fewer pixels.
    const { widthPx, heightPx } = given.finish;
    const half =
      widthPx * heightPx > MOST_DRAFT_PIXELS && (yield* lessOf(given, { kind: "halves", times: 1 }));
    const picture = half ? as(half, "picture") : given;
    const made = yield* tonesOf(picture, settings, context, true);
    return platesOf(
      picture,
      settings,
      made,
      picture.finish,
      made.inks.map(() => newBits(0, 0)),
    );
  },
  looksBack: true,
  *inspect(result, { picture }, settings, limits) {
    return yield* inspectBy([FILMS_READINGS, ...FILMS_CHECKS], { result, picture, settings, limits });
  },
  readings: {
    plates: { label: "Plates", display: "plates" },
    errorMean: { label: "Print off the art, mean", unit: "ΔE", decimals: 2 },
    errorMost: { label: "99 of 100 under", unit: "ΔE", decimals: 1 },
    reason: { label: "Why these inks", display: "none" },
  },
  inColourways: true,
  delivers: "films",
  async *files(...asked) {
    const { filmFiles } = await import("./files");
    yield* filmFiles(...asked);
  },
  limits: ["areaMm2", "registerMm", "filmMm", "dotMm"],
  summary: (settings) => {
    const { separate, inks } = settings;
    const kind = { flat: "flat", tonal: "tonal", process: "process", black: "one black" }[separate];
    const names = Array.isArray(inks)
      ? inks.map((i) => i.name).join(", ")
      : inks === "auto"
        ? "inks found"
        : `${inks} inks found`;
    return `${kind}: ${names}${settings.mirror ? ", mirrored" : ""}`;
  },
});

/** Of a first look. */
const MOST_DRAFT_PIXELS = 500_000;
/** So many inks are found in most art. */
const USUAL_PLATES = 6;
/** As many dots as a film of 13 by 19 inches has at 1440 an inch. */
const MOST_FILM_DOTS = 520e6;

type KeptDots = Map<string, Bits>;

interface Tones extends Chosen {
  readonly finish: Finish;
  readonly planes: readonly Uint8Array[];
  readonly whiteSeen: Uint8Array | null;
  /** Tells these tones from others on the same picture. */
  readonly name: string;
}

interface Kept {
  readonly name: string;
  readonly planes: readonly Uint8Array[];
}

/** The tones of every plate. Each part of the work is kept until what it hangs on has changed. */
function* tonesOf(
  { colour, finish }: Picture,
  settings: FilmsSettings,
  { keep }: Pick<Context, "keep">,
  quick: boolean,
): Work<Tones> {
  const asked = JSON.stringify([settings.inks, settings.separate, settings.garment]);
  let found = keep.get<{ readonly of: string; readonly chosen: Chosen }>("inks");
  if (found?.of !== asked) {
    found = { of: asked, chosen: yield* workSlice(inksFor(colour, settings), 0, 0.2) };
    keep.set("inks", found, asked.length);
  }
  const { inks, reason } = found.chosen;
  const part = separationOf(settings, inks);
  let apart = keep.get<Kept>("separated");
  if (apart?.name !== part) {
    apart = { name: part, planes: yield* workSlice(separated(colour, settings, inks, quick), 0.2, 0.7) };
    keep.set("separated", apart, bytesOfPlanes(apart.planes));
  }
  const name = part + arrangementOf(settings, inks);
  let last = keep.get<Kept>("arranged");
  if (last?.name !== name) {
    const inside = quick ? keptInside(part, settings, inks, finish, keep) : insideOf(finish);
    last = { name, planes: yield* workSlice(arranged(apart.planes, settings, inks, finish, inside), 0.7, 1) };
    keep.set("arranged", last, bytesOfPlanes(last.planes.filter((p) => !apart.planes.includes(p))));
  }
  const white = inks.findIndex((i) => i.role === "underbase");
  const whiteSeen = settings.separate === "flat" && white >= 0 ? apart.planes[white] : null;
  return { finish, inks, reason, planes: last.planes, whiteSeen, name };
}

const insideOf = ({ widthPx, heightPx }: Finish): Inside =>
  function* (shape) {
    const own = yield* workSlice(shape(), 0, 0.1);
    return yield* workSlice(squaredInside(own, widthPx, heightPx), 0.1, 1);
  };

/** For a first look, distances are at hand as long as what is printed keeps its shape: a dragged choke needs no others. */
const keptInside = (
  part: string,
  settings: FilmsSettings,
  inks: readonly Ink[],
  finish: Finish,
  keep: Context["keep"],
): Inside =>
  function* (shape) {
    const name = part + outlineOfInks(settings, inks);
    const kept = keep.get<{ readonly name: string; readonly squared: Int32Array }>("inside");
    if (kept?.name === name) return kept.squared;
    const squared = yield* insideOf(finish)(shape);
    keep.set("inside", { name, squared }, squared.byteLength);
    return squared;
  };

const bytesOfPlanes = (planes: readonly Uint8Array[]): number => planes.reduce((sum, p) => sum + p.length, 0);

function platesOf(
  { finish, frame, colour, outline }: Picture,
  settings: FilmsSettings,
  { inks, planes, reason, whiteSeen }: Tones,
  film: Finish,
  bits: readonly Bits[],
): Plates {
  const { widthPx: width, heightPx: height } = finish;
  return {
    kind: "plates",
    finish: film,
    frame,
    ...(outline ? { outline } : {}),
    plates: inks.map(({ name, colour: hex }, k) => ({ name, ink: numberOf(hex), bits: bits[k] })),
    cover: null,
    print: {
      garment: numberOf(settings.garment),
      inks: inks.map((ink) => ({
        opacity: ink.opacity,
        role: ink.role,
        solid: linePlate.isOf(screenOf(ink, settings)),
      })),
      tones: planes.map((data) => ({ width, height, data })),
      art: colour,
      whiteSeen,
      reason,
      chosen: inks,
    },
  };
}

/** The finish at the film printer's resolution. @throws RouteError when its dots come out uneven */
export function filmFinish({ printerDotsPerInch }: FilmsSettings, finish: Finish): Finish {
  if (printerDotsPerInch === undefined) return finish;
  const { dotsPerInch, widthPx, heightPx } = finish;
  const times = Math.round(printerDotsPerInch / dotsPerInch);
  const refuse = (allowed: string): never => {
    throw new RouteError("films", "printerDotsPerInch", printerDotsPerInch, allowed);
  };
  if (times < 1 || Math.abs(times * dotsPerInch - printerDotsPerInch) > 0.001 * printerDotsPerInch) {
    const near = [times, times + 1].filter((t) => t >= 1).map((t) => figure(t * dotsPerInch, 2));
    refuse(
      `a whole multiple of the finish's ${figure(dotsPerInch, 2)} dots per inch, such as ${near.join(" or ")}`,
    );
  }
  const dots = widthPx * heightPx * times * times;
  if (dots > MOST_FILM_DOTS)
    refuse(
      `films of ${MOST_FILM_DOTS / 1e6} million dots or less; this would be ${widthPx * times} x ${heightPx * times}`,
    );
  return {
    ...finish,
    widthPx: widthPx * times,
    heightPx: heightPx * times,
    dotsPerInch: dotsPerInch * times,
  };
}

import { type Method } from "../../dots/method";
import { type Dots } from "../../inspect/dots";
import { checkEvenAreas } from "../../inspect/evenAreas";
import { checkHaze } from "../../inspect/haze";
import { type Limits } from "../../inspect/limits";
import { checkMarkedShare, markedShare } from "../../inspect/markedShare";
import { coverageByRegion } from "../../inspect/regions";
import { runLengths } from "../../inspect/runs";
import { checkSingleDots } from "../../inspect/singleDots";
import { checkSmall } from "../../inspect/smallMarks";
import { checkStrokes } from "../../inspect/strokeWidth";
import { checkTones } from "../../inspect/tones";
import { workSlice } from "../../maths/work";
import { type Finish } from "../../result/finish";
import { type Picture, type Tone } from "../../result/result";
import { atOnce, type StageCheck } from "../checks";
import { plainTone } from "../tone/plainTone";
import { responseOf } from "./response";
import { type BlackWhiteSettings } from "./settings";
import { tableOf } from "./wanted";

interface About {
  readonly dots: Dots;
  readonly finish: Finish;
  /** Threshold that was used, when the method has one. */
  readonly threshold?: number;
  /** What the marks were made from. */
  readonly tone: Tone | Picture;
  readonly settings: BlackWhiteSettings;
  readonly method: Method;
  readonly limits: Limits;
}

const byDots = ({ method }: About): boolean => !method.lineWork;

/** Everything that is looked at in the marks, and in the tone that they are made from. */
export const BLACK_WHITE_CHECKS: readonly StageCheck<About>[] = [
  {
    cost: 20,
    *find({ dots, finish, limits, method }) {
      return { checks: [yield* checkEvenAreas("bare", dots, finish, limits, method.lineWork)] };
    },
  },
  {
    cost: 17,
    *find({ dots, finish, limits, method }) {
      return { checks: [yield* checkEvenAreas("solid", dots, finish, limits, method.lineWork)] };
    },
  },
  {
    cost: 4,
    *find({ dots, finish, limits }) {
      return { checks: [yield* checkSingleDots(dots, finish, limits)] };
    },
  },
  {
    cost: 8.5,
    *find({ dots, finish, limits }) {
      return { checks: [yield* checkSmall("mark", dots, finish, limits.dotMm)] };
    },
  },
  {
    cost: 8.5,
    *find({ dots, finish, limits }) {
      return { checks: [yield* checkSmall("gap", dots, finish, limits.gapMm)] };
    },
  },
  {
    cost: 2,
    *find({ dots, threshold }) {
      const share = yield* markedShare(dots);
      const markedPercent = Math.round(share * 100) / 100;
      const readings = { markedPercent, ...(threshold === undefined ? {} : { threshold }) };
      return { readings, checks: [checkMarkedShare(share, dots.cover !== null)] };
    },
  },
  {
    cost: 25,
    applies: ({ method }) => method.lineWork,
    *find({ dots, finish, limits }) {
      const { check, readings } = yield* checkStrokes(dots, finish, limits.strokeMm);
      return { readings, checks: [check] };
    },
  },
  {
    cost: 25,
    applies: byDots,
    *find({ tone, dots, finish, settings, limits }) {
      const { gray } = tone.kind === "tone" ? tone : yield* workSlice(plainTone(tone), 0, 0.3);
      return {
        checks: [yield* workSlice(checkHaze(gray, tableOf(settings), dots.cover, finish, limits), 0.3, 1)],
      };
    },
  },
  {
    applies: ({ method }) => method.tones !== undefined,
    ...atOnce(({ method, settings, finish }) => ({ checks: [checkTones(method.tones!(settings, finish))] })),
  },
  {
    cost: 5,
    applies: byDots,
    *find({ settings, finish }) {
      return { readings: { response: yield* responseOf(settings, finish) } };
    },
  },
  {
    cost: 5,
    *find({ dots }) {
      return { readings: { regions: yield* coverageByRegion(dots) } };
    },
  },
  {
    cost: 5,
    *find({ dots }) {
      const { marks, gaps } = yield* runLengths(dots);
      return { readings: { runsMarked: marks, runsBare: gaps } };
    },
  },
];

import { figure } from "../inspect/check";
import { mmOfDots } from "../maths/units";
import { type ArtworkFacts } from "../route/source";
import { type ArtworkReading } from "./reading";

export type ProposalId = "engravePhoto" | "lineArt" | "vinyl" | "sticker" | "resistFilm";

/** One setting of a proposed route, in words, and why it is so. */
export interface Reason {
  readonly stage: string;
  readonly decided: string;
  readonly why: string;
}

export interface Proposal {
  readonly id: ProposalId;
  readonly title: string;
  /** As in a route file. */
  readonly stages: readonly object[];
  readonly reasons: readonly Reason[];
}

const TITLES: Record<ProposalId, string> = {
  engravePhoto: "Engrave the photo",
  lineArt: "Engrave or cut the line art",
  vinyl: "Flat art to vinyl",
  sticker: "Sticker",
  resistFilm: "Resist film",
};

/** Which routes suit which kind, the likeliest first. */
const SUITED: Record<ArtworkReading["kind"], readonly ProposalId[]> = {
  photograph: ["engravePhoto", "sticker", "resistFilm"],
  "ink on paper": ["lineArt", "resistFilm", "vinyl", "sticker"],
  "flat art": ["vinyl", "sticker", "lineArt", "resistFilm"],
  "cut out": ["sticker", "vinyl", "lineArt", "engravePhoto", "resistFilm"],
};

type Facts = Pick<ArtworkFacts, "width" | "height">;

/** Routes for an artwork, the likeliest first, each setting with its reason. */
export const proposalsFor = (reading: ArtworkReading, facts: Facts): Proposal[] =>
  SUITED[reading.kind].map((id) => proposal(id, reading, facts));

interface Step {
  readonly stage: object;
  readonly reasons: readonly Reason[];
}

function proposal(id: ProposalId, reading: ArtworkReading, facts: Facts): Proposal {
  const steps = [sizeStep(id, reading, facts), clearStep(id, reading), ...inkSteps(id, reading)].filter(
    (s) => s !== null,
  );
  return {
    id,
    title: TITLES[id],
    stages: steps.map((s) => s.stage),
    reasons: steps.flatMap((s) => s.reasons),
  };
}

const USUAL: Record<
  ProposalId,
  { readonly longMm: number; readonly dotsPerInch: number; readonly why: string }
> = {
  engravePhoto: {
    longMm: 90,
    dotsPerInch: 254,
    why: "ten dots a millimetre, what most bench lasers resolve",
  },
  lineArt: { longMm: 120, dotsPerInch: 300, why: "lines stay smooth" },
  vinyl: { longMm: 150, dotsPerInch: 254, why: "fine enough for a blade's path" },
  sticker: { longMm: 70, dotsPerInch: 300, why: "what a sticker printer resolves" },
  resistFilm: { longMm: 200, dotsPerInch: 150, why: "a coarse dot holds in sandblasting" },
};

function sizeStep(
  id: ProposalId,
  { realWidth, realHeight, enlarged, largest }: ArtworkReading,
  facts: Facts,
): Step {
  const { longMm, dotsPerInch, why } = USUAL[id];
  const long = Math.max(realWidth, realHeight);
  const enough = largest ? mmOfDots(long, { dotsPerInch }) : longMm;
  const side = facts.width >= facts.height ? { widthMm: longMm } : { heightMm: longMm };
  const short = enough < longMm;
  const blown = enlarged > 1 ? `, for it is soft or was blown up` : "";
  return {
    stage: { stage: "size", ...side, dotsPerInch },
    reasons: [
      {
        stage: "Size",
        decided: `${longMm} mm at ${dotsPerInch} dots/in`,
        why: short ? `${why}; its pixels are enough for ${figure(enough, 0)} mm${blown}` : why,
      },
    ],
  };
}

/** How far a pick may go on this ground: over its own spread, and over the ripples of a JPEG about flat art. */
export const toleranceFor = ({ kind, ground }: Pick<ArtworkReading, "kind" | "ground">): number =>
  Math.round(Math.min(25, (kind === "flat art" ? 7 : 3.5) + 2.5 * ground.spread));

// Thresholds: what they decide is measured by `npm run kinds`.

/** A picture's edge counts as a ground that can be picked when most of it has one colour. */
const GROUND = 0.7;

/**
 * A lift with its two ends where the artwork's own paper and ink put them. Light that looks even is looked at once more,
 * more closely, when the ink is lifted.
 */
export const proposedLift = ({ lift, light }: Pick<ArtworkReading, "lift" | "light">) =>
  ({ op: "lift", ...lift, paper: "auto", light: light === "uneven" ? "uneven" : "auto" }) as const;

function clearStep(id: ProposalId, reading: ArtworkReading): Step | null {
  const { kind, ground, light, lift } = reading;
  if (kind === "cut out") return null;
  if (kind === "ink on paper") {
    if (id === "vinyl" && light === "even") return null;
    return {
      stage: { stage: "clear", ops: [proposedLift(reading)], specksMm2: 0.05 },
      reasons: [
        {
          stage: "Clear",
          decided: `lift ${Math.round(lift.kept * 100)} to ${Math.round(lift.gone * 100)} %${light === "uneven" ? ", light evened" : ""}`,
          why:
            light === "uneven"
              ? `light on the paper falls to ${Math.round(reading.figures.light * 100)} %`
              : "between the ink's lightness and the paper's own spread",
        },
      ],
    };
  }
  if (ground.colour === null || ground.share < GROUND || (kind === "photograph" && id !== "sticker"))
    return null;
  const tolerance = toleranceFor(reading);
  const ops: object[] = [{ op: "pick", at: [0.005, 0.005], tolerance, joined: true }];
  if (kind === "flat art") ops.push({ op: "gaps", like: 0, tolerance, smallestMm2: 0.5 });
  return {
    stage: { stage: "clear", ops, specksMm2: 0.1 },
    reasons: [
      {
        stage: "Clear",
        decided: `pick ±${tolerance}${kind === "flat art" ? " and its gaps" : ""}`,
        why: `${Math.round(ground.share * 100)} % of the edge is ${ground.colour}, even to ±${figure(ground.spread)}`,
      },
    ],
  };
}

function inkSteps(id: ProposalId, { kind, noise, enlarged, figures }: ArtworkReading): Step[] {
  const photo = kind === "photograph" || (kind === "cut out" && figures.flat < 0.9);
  if (id === "sticker") return [];
  if (id === "engravePhoto" || (id === "resistFilm" && photo)) {
    const amount = noise > 4 || enlarged > 1 ? 0.3 : 0.6;
    const kernel = id === "resistFilm" ? "stucki" : "jarvis-judice-ninke";
    return [
      {
        stage: {
          stage: "tone",
          curve: [
            [0, 0],
            [0.5, 0.6],
            [0.92, 0.96],
            [1, 1],
          ],
          sharpen: { radiusMm: 0.15, amount },
        },
        reasons: [
          { stage: "Tone", decided: "middle lifted", why: "dots print darker than the grey they stand for" },
          {
            stage: "Tone",
            decided: `sharpened ${Math.round(amount * 100)} %`,
            why:
              amount < 0.6
                ? enlarged > 1
                  ? "no more, for it is soft"
                  : `no more, for it is noisy (±${noise})`
                : "dots soften edges",
          },
        ],
      },
      {
        stage: { stage: "blackWhite", method: "scatter", kernel },
        reasons: [{ stage: "Black & white", decided: "scatter", why: "a photograph has tones between" }],
      },
    ];
  }
  return [
    {
      stage: { stage: "blackWhite", method: "line", threshold: "auto" },
      reasons: [
        {
          stage: "Black & white",
          decided: "line, threshold found",
          why: `${Math.round(figures.flat * 100)} % of it is a few flat tones`,
        },
      ],
    },
  ];
}

/** What was read, in words with figures, a line each. */
export function readingWords(reading: ArtworkReading, facts: Facts): string[] {
  const { kind, ground, light, figures, noise, blockiness, enlarged, largest, skew, realWidth, realHeight } =
    reading;
  const said = [
    {
      photograph: "Photograph",
      "ink on paper": "Ink on paper",
      "flat art": "Flat art",
      "cut out": "Already cut out",
    }[kind] + (kind === "cut out" ? `, ${Math.round(figures.clear * 100)} % is clear` : ""),
  ];
  if (ground.colour)
    said.push(
      ground.share >= GROUND
        ? `Background ${ground.colour} on ${Math.round(ground.share * 100)} % of the edge, even to ±${figure(ground.spread)}`
        : `No one background: ${ground.colour} on ${Math.round(ground.share * 100)} % of the edge`,
    );
  if (kind === "ink on paper")
    said.push(
      light === "even"
        ? "Evenly lit"
        : `Unevenly lit: the dimmest part has ${Math.round(figures.light * 100)} % of the light`,
    );
  said.push(
    `Noise ±${figure(noise)} of 255${blockiness >= 25 ? `, JPEG blocks ${figure(blockiness / 100)}` : ""}`,
  );
  said.push(
    enlarged > 1
      ? `Detail of only ${realWidth} × ${realHeight}: soft, or blown up about ${enlarged} times`
      : `${facts.width} × ${facts.height} pixels, all real`,
  );
  if (largest)
    said.push(
      `Fills ${largest.map((l) => `${figure(Math.max(l.widthMm, l.heightMm), 0)} mm at ${l.dotsPerInch}`).join(", ")} dots/in`,
    );
  if (skew !== null && Math.abs(skew) >= 0.3)
    said.push(`Turned ${figure(Math.abs(skew))}° ${skew > 0 ? "counter-clockwise" : "clockwise"}`);
  return said;
}

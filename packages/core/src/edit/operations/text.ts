import { z } from "zod";
import { alongPath } from "../../letters/baseline";
import { setWords, type HowSet } from "../../letters/words";
import { typefaceOf } from "../../letters/shelf";
import { type Work } from "../../maths/work";
import { curveBox } from "../../path/curveBox";
import { affinePath, after, movedPointBy, scaleAbout, shift, turnAbout } from "../../path/affine";
import { RouteError } from "../../settings/errors";
import { drawOver, over } from "../drawOver";
import { at, definePathOperation, type Bench } from "../operation";
import { type FurtherTurn } from "../../turn/further";

/** Where words stand on a path: which, by a place on it from which they are set. */
const path = z.strictObject({ kind: z.literal("path"), at, flipped: z.boolean().default(false) });
const along = z.discriminatedUnion("kind", [
  z.strictObject({
    kind: z.literal("arc"),
    radiusMm: z
      .number()
      .min(-5000)
      .max(5000)
      .refine((r) => Math.abs(r) >= 1, "1 to 5000, or -1 to -5000"),
  }),
  z.strictObject({
    kind: z.literal("circle"),
    diameterMm: z.number().min(2).max(5000),
    side: z.enum(["outside", "inside"]).default("outside"),
    spread: z.boolean().default(false),
  }),
  path,
]);

const mm = z.number().min(0.5).max(5000);
/** A font that ships, by its name, or one of the shop's, by the SHA-256 of its file. */
const font = z
  .string()
  .regex(/^([a-z][a-z-]{1,30}|[0-9a-f]{64})$/, { error: "a font's name, or its file's SHA-256" });

const schema = z.strictObject({
  edit: z.literal("text"),
  /** Lines are parted by line feeds. */
  text: z.string().min(1).max(500),
  font: font.default("grotesque"),
  /** The middle of the words; of a circle its middle. */
  at,
  capitalMm: z.number().min(0.3).max(1000).default(8),
  trackingPercent: z.number().min(-50).max(500).default(0),
  leading: z.number().min(0.3).max(10).default(1.6),
  align: z.enum(["left", "middle", "right"]).default("middle"),
  turnDegrees: z.number().min(-360).max(360).default(0),
  mirrored: z.boolean().default(false),
  along: along.optional(),
  box: z
    .strictObject({
      widthMm: mm,
      heightMm: mm,
      tooLong: z.enum(["shrink", "break", "tell"]).default("shrink"),
    })
    .optional(),
  /** The words are filled from a table's column of this name. */
  field: z
    .string()
    .trim()
    .regex(/^[\p{L}\p{N}][\p{L}\p{N} _-]{0,39}$/u, {
      error: "letters, digits, spaces and hyphens, 40 at most",
    })
    .optional(),
  bridgeMm: z.number().min(0).max(20).default(0),
  over,
});
export type TextEdit = z.output<typeof schema>;

/** Words in a font. They stay words, and can be typed again. */
export const text = definePathOperation(schema, {
  *act(bench, edit): Work<boolean> {
    const face = typefaceOf(edit.font);
    if (!face) throw new RouteError("paths", "font", edit.font, "a font that was got ready before");
    const on = baselineOf(bench, edit);
    if (on === null) return false;
    const set = yield* setWords(face, { ...edit, on });
    // On a path the words are where it is, mirrored with it; elsewhere they are about a place.
    const place = edit.along?.kind === "path" ? ([0, 0] as const) : bench.mm(edit.at);
    const turned =
      edit.along?.kind === "path" ? shift(0, 0) : after(shift(...place), turnAbout(edit.turnDegrees, [0, 0]));
    const whole = edit.mirrored ? after(turned, scaleAbout(-1, 1, [0, 0])) : turned;
    const paths = set.paths.map((one) => affinePath(one, whole));
    bench.tellWords({
      text: edit.text,
      box: curveBox(paths),
      capitalMm: set.capitalMm,
      fits: set.fits,
      missing: set.missing,
    });
    if (!set.isLines) return yield* drawOver(bench, paths, edit.over);
    for (const path of paths) bench.drawLine(path);
    return true;
  },
  turned: turnedText,
});

/** What words stand on that need no path: nothing of their own, an arc or a circle. */
export function standsOn(on: TextEdit["along"]): HowSet["on"] {
  if (on?.kind === "circle") return { circleMm: on.diameterMm, side: on.side, spread: on.spread };
  return on?.kind === "arc" ? { arcMm: on.radiusMm } : undefined;
}

/** What the words stand on; null where the path is no longer there. */
function baselineOf(bench: Bench, { along: on, mirrored }: TextEdit): HowSet["on"] | null {
  if (on?.kind !== "path") return standsOn(on);
  const found = bench.pathAt(on.at);
  if (!found) return null;
  const seen = mirrored ? scaleAbout(-1, 1, [0, 0]) : shift(0, 0);
  return alongPath(affinePath(bench.paths[found.path], seen), movedPointBy(seen, found.at), on.flipped);
}

function turnedText(edit: TextEdit, by: FurtherTurn): TextEdit {
  const moved = {
    ...edit,
    at: by.at(edit.at),
    ...(edit.along?.kind === "path" && { along: { ...edit.along, at: by.at(edit.along.at) } }),
  };
  if (by.quarter === null) return moved;
  const [x, y] = by.offset([1, 0]);
  // Which way the words run after the turn, in quarters.
  const quarters = x > 0.5 ? 0 : y > 0.5 ? 1 : x < -0.5 ? 2 : 3;
  if (by.mirrors) {
    const turned = -edit.turnDegrees + (quarters === 2 ? 0 : 180);
    return { ...moved, mirrored: !edit.mirrored, turnDegrees: within(turned) };
  }
  return { ...moved, turnDegrees: within(edit.turnDegrees + 90 * quarters) };
}

const within = (degrees: number): number => {
  const round = ((((degrees + 180) % 360) + 360) % 360) - 180;
  return round === -180 ? 180 : round + 0;
};

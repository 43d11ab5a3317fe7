import { numberOf } from "../../colour/oklab";
import { MM_PER_INCH } from "../../maths/units";
import { type Work, workSlice } from "../../maths/work";
import { litAt, photoLight, smoothingOf } from "../../mockUp/photoLight";
import { measuredArea, type PhotoArea } from "../../mockUp/photoArea";
import { photoOf } from "../../mockUp/photos";
import { type MockUp } from "../../mockUp/result";
import { type Lattice } from "../../mockUp/shading";
import { drawnThing, thingOf } from "../../mockUp/things";
import { WHOLE_FRAME } from "../../path/frame";
import { RouteError } from "../../settings/errors";
import { canonical } from "../../settings/canonical";
import { type Placement } from "../../result/finish";
import { inspectBy } from "../checks";
import { defineStage, type Context } from "../stage";
import { aboutMockUp, MOCK_UP_CHECKS } from "./checks";
import { frontOf } from "./front";
import { lookOf } from "./look";
import { mockUpSettings, type MockUpSettings, type PhotoThing } from "./settings";

/** What is printed, burned or cut, shown on the thing that it goes on, at its true size. */
export const mockUp = defineStage({
  id: "mockUp",
  title: "Mock-up",
  settings: mockUpSettings,
  takes: () => ({ art: ["picture", "plates", "paths"] }) as const,
  gives: "mockUp",
  canvas: canvasFor,
  admit: ({ thing }: MockUpSettings) => {
    if (typeof thing === "object") areaOf(thing);
  },
  photos: ({ thing }) => (typeof thing === "object" ? [thing.photo] : []),
  *run({ art }, settings, { keep }): Work<MockUp> {
    const { thing, size, vinyl, mark, prints } = settings;
    return {
      kind: "mockUp",
      ...canvasFor(settings),
      ...{ art, ...lookOf(art, settings), vinyl: numberOf(vinyl), prints },
      ...(mark ? { mark } : {}),
      thing:
        typeof thing === "string" ? { kind: "drawn", id: thing, size } : yield* photographed(thing, keep),
    };
  },
  *inspect(result) {
    return yield* inspectBy(MOCK_UP_CHECKS, aboutMockUp(result));
  },
  readings: {
    printWidth: { label: "Printed width", unit: "mm", decimals: 1 },
    printHeight: { label: "Printed height", unit: "mm", decimals: 1 },
    below: { label: "Below the edge", unit: "mm", decimals: 1 },
    fromMiddle: { label: "Right of the middle", unit: "mm", decimals: 1 },
    sits: { label: "Where it sits", display: "none" },
  },
  inColourways: true,
  atOnce: true,
  delivers: "mock-up",
  async *files(result, settings, doing, job, ways) {
    const { mockUpFiles } = await import("./files");
    yield* mockUpFiles(result, settings, doing, job, ways);
  },
  summary: ({ thing, size, prints }) => {
    const name = typeof thing === "string" ? thingOf(thing).title : thing.name;
    const own = typeof thing === "string" && thingOf(thing).sizes.includes(size) ? `, ${size}` : "";
    const where = prints.map(({ at }) =>
      typeof at === "string" ? (at === "usual" ? "usual place" : at) : "placed by hand",
    );
    return `${name}${own}: ${where.join("; ")}`;
  },
});

/** The size of what is shown: a thing's picture at the width that is wanted. */
function canvasFor({ thing, size, widthPx }: MockUpSettings): Placement {
  const sides =
    typeof thing === "string"
      ? drawnThing(thing, size)
      : { widthMm: thing.widthPx / areaOf(thing).perMm, heightMm: thing.heightPx / areaOf(thing).perMm };
  const dotsPerInch = (widthPx / sides.widthMm) * MM_PER_INCH;
  const heightPx = Math.max(1, Math.round((widthPx * sides.heightMm) / sides.widthMm));
  const finish = { widthPx, heightPx, dotsPerInch, widthMm: sides.widthMm, heightMm: sides.heightMm };
  return { finish, frame: WHOLE_FRAME };
}

/** @throws RouteError where its places make no sense */
function areaOf({ area, widthPx, heightPx }: PhotoThing) {
  const found = measuredArea(area as PhotoArea, { width: widthPx, height: heightPx });
  if (!found)
    throw new RouteError(
      "mockUp",
      "thing.area",
      area.kind,
      "places that a camera can have seen so: corners clockwise from the upper left, curves from left to right, the upper one first",
    );
  return found;
}

interface Read {
  readonly of: string;
  readonly light: Lattice;
}

/** A photograph with what is found out of it; each part is kept until what it hangs on has changed. */
function* photographed(thing: PhotoThing, keep: Context["keep"]): Work<MockUp["thing"]> {
  const photo = photoOf(thing.photo);
  if (!photo) throw new Error(`the photograph ${thing.photo} was not got ready`);
  if (photo.width !== thing.widthPx || photo.height !== thing.heightPx)
    throw new RouteError(
      "mockUp",
      "thing.widthPx",
      thing.widthPx,
      `the photograph's own size, ${photo.width} x ${photo.height}`,
    );
  const { perMm, area: printed } = areaOf(thing);
  const area = thing.area as PhotoArea;
  // Places that are dragged change where the light is looked up, and seldom how it is smoothed.
  const smoothing = smoothingOf(photo, thing.smoothMm * perMm);
  const of = canonical([thing.photo, smoothing]);
  let read = keep.get<Read>("light");
  if (read?.of !== of) {
    const light = yield* workSlice(photoLight(photo, smoothing), 0, 0.6);
    read = { of, light };
    keep.set("light", read, light.values.byteLength);
  }
  const lit = litAt(read.light, printed, thing.cloth ?? null);
  const masked = canonical([thing.photo, thing.front, thing.front.length > 0 && perMm]);
  let front = keep.get<{ readonly of: string; readonly plane: Uint8Array | null }>("front");
  if (front?.of !== masked) {
    front = { of: masked, plane: yield* workSlice(frontOf(photo, thing.front, perMm), 0.6, 1) };
    keep.set("front", front, front.plane?.length ?? 0);
  }
  return { kind: "photo", photo, area, light: read.light, lit, front: front.plane };
}

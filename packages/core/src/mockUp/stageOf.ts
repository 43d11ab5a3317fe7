import { type Colourway } from "../recolour/colourway";
import { boxOfArt } from "./layer";
import { measuredArea } from "./photoArea";
import { placed, type Places } from "./place";
import { type MockUp } from "./result";
import { type Scene, type Stage } from "./scene";
import { drawnThing, thingOf } from "./things";
import { ETCHED } from "./thing";

/** A thing as it is ready to have something put on it; null where a photograph's places make no sense. */
export function stageOf(thing: MockUp["thing"]): Stage | null {
  if (thing.kind === "drawn") {
    const { stuff, etched } = thingOf(thing.id);
    const drawn = drawnThing(thing.id, thing.size);
    const { widthMm: width, heightMm: height } = drawn;
    return { kind: "drawn", drawn, stuff, etched, width, height, perMm: 1, places: drawn };
  }
  const { photo, light, lit, front } = thing;
  const found = measuredArea(thing.area, photo);
  return (
    found && {
      ...{ kind: "photo", photo, light, lit, front, width: photo.width, height: photo.height },
      ...{ surface: found.surface, perMm: found.perMm, etched: ETCHED.steel },
      places: photoPlaces(found.area),
    }
  );
}

/** Where something can be put on a photographed thing. */
export const photoPlaces = (area: Places["areas"][number]): Places => {
  const { width, height } = area.limits;
  return {
    areas: [area],
    places: [
      { name: "upper middle", area: area.name, at: [0, height / 8] },
      { name: "upper right", area: area.name, at: [width / 4, height / 8] },
    ],
  };
};

/** What grew or was mined has the colour that it has; all else can be had in other ones. */
const takesColour = (stage: Stage): boolean =>
  stage.kind === "drawn" && !["wood", "leather", "brass"].includes(stage.stuff);

/** A mock-up as a scene, in a colourway or as it is. */
export function sceneOf(of: MockUp, way: Colourway | null): Scene | null {
  const stage = stageOf(of.thing);
  if (!stage) return null;
  const art = boxOfArt(of.art);
  return {
    stage: of.mark ? { ...stage, etched: { ...stage.etched, colour: of.mark } } : stage,
    colour: way && takesColour(stage) ? way.garment : of.colour,
    ...{ ink: of.ink, vinyl: of.vinyl, way },
    prints: of.prints.map((p) => placed(p, stage.places, art)),
  };
}

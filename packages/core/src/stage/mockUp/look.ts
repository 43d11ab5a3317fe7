import { hexOfNumber } from "../../colour/oklab";
import { type Art } from "../../mockUp/layer";
import { type MockUp } from "../../mockUp/result";
import { thingOf } from "../../mockUp/things";
import { type MockUpSettings } from "./settings";

/** A thing's colour and how what is put on it lies there: as they are set, or as is usual for the thing. */
export function lookOf(
  art: Art,
  { thing, colour, ink }: Pick<MockUpSettings, "thing" | "colour" | "ink">,
): Pick<MockUp, "colour" | "ink"> {
  // A photograph has its own colour.
  const usual =
    typeof thing === "string"
      ? thingOf(thing)
      : ({ colour: "#ffffff", ink: "onTop", stuff: "paper" } as const);
  const garment =
    art.kind === "plates" ? art.print?.garment : art.kind === "picture" ? art.onGarment?.garment : undefined;
  const own = usual.stuff === "cloth" && garment !== undefined ? hexOfNumber(garment) : usual.colour;
  return { colour: colour === "own" ? own : colour, ink: ink === "own" ? usual.ink : ink };
}

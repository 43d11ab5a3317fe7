import { settingsOf } from "@hardline/core/route/route";
import { named } from "@hardline/core/stage/films/inks";
import { Surface } from "../../table/Surface";
import { type HandsProps } from "../face";
import { inksOf } from "./inksOf";
import { type FilmTools } from "./useFilms";
import { type ColourWish } from "../colourAt";
import { answered } from "../../shared/answered";

/** A click on the picture adds an ink of the colour that is there. */
export function FilmsHands({ scene, tools, engine, finish, placed, box }: HandsProps<FilmTools>) {
  if (!tools.picking) return null;
  const inks = inksOf(scene);
  const add = async (x: number, y: number): Promise<void> => {
    const wish: ColourWish = { x: (x - placed.x) / placed.zoom, y: (y - placed.y) / placed.zoom };
    if (wish.x < 0 || wish.y < 0 || wish.x >= finish.widthPx || wish.y >= finish.heightPx) return;
    const asked = engine.ask<string | null>({ stage: "films", name: "colour", wish });
    const colour = await answered(asked, "The colour was not read");
    if (!colour || !settingsOf(scene.route, "films")) return;
    scene.set("films", { inks: [...inks, named(colour, inks)] });
    tools.setPicking(false);
  };
  return (
    <Surface
      box={box}
      hand={{
        cursor: "crosshair",
        help: "Click the colour that is to have an ink of its own. Space moves the picture.",
        down: (_, x, y) => void add(x, y),
      }}
    />
  );
}

import { onArtwork, onPiece, type At } from "@hardline/core/path/frame";
import { mmOfDots } from "@hardline/core/maths/units";
import { useComments } from "../../api/history";
import { Surface } from "../../table/Surface";
import { type HandsProps } from "../face";
import css from "./Comments.module.css";
import { numbered } from "./numbered";
import { type Pointing } from "./usePointing";

/** Pins of the comments on the picture; a click sets the place of a new one. */
export function CommentsHands({ scene, tools, finish, placed, box }: HandsProps<Pointing>) {
  const { data = [] } = useComments(scene.ticket.id);
  const { frame, saved } = scene;
  const perMm = placed.width / finish.widthMm;
  const onScreen = (place: At) => {
    const [x, y] = onPiece(place, { finish, frame });
    return { left: placed.x + x * perMm, top: placed.y + y * perMm };
  };
  const point = (x: number, y: number): void => {
    const dots = [(x - placed.x) / placed.zoom, (y - placed.y) / placed.zoom];
    const place = onArtwork([mmOfDots(dots[0], finish), mmOfDots(dots[1], finish)], { finish, frame });
    if (!place.every((v) => v >= -1 && v <= 2)) return;
    tools.setPlace(place);
    tools.setPointing(false);
  };
  return (
    <>
      {numbered(data, saved.id).map(
        ({ comment, number }) =>
          number !== null && (
            <span
              key={comment.id}
              className={css.pin}
              data-shown={tools.shown === comment.id || undefined}
              style={onScreen(comment.place!)}
              title={`${comment.by.name}: ${comment.text}`}
            >
              {number}
            </span>
          ),
      )}
      {tools.place && (
        <span className={css.pin} data-new style={onScreen(tools.place)}>
          +
        </span>
      )}
      {tools.pointing && (
        <Surface
          box={box}
          hand={{
            cursor: "crosshair",
            help: "Click the place that the comment is about. Space moves the picture.",
            down: (_, x, y) => point(x, y),
          }}
        />
      )}
    </>
  );
}

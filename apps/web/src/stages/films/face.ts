import { defineFace } from "../face";
import { FilmsHands } from "./FilmsHands";
import { FILM_KEYS, filmKeys } from "./filmKeys";
import { FilmsPanel } from "./FilmsPanel";
import { useFilms, type FilmTools } from "./useFilms";

export const filmsFace = defineFace<FilmTools>({
  id: "films",
  useTools: useFilms,
  Panel: FilmsPanel,
  Hands: FilmsHands,
  keys: filmKeys,
  keyList: FILM_KEYS,
  view: (tools) => tools.view,
});

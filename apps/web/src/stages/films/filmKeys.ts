import { type StageKey } from "../face";
import { type FilmTools } from "./useFilms";

/** As many plates as there are digits have a key of their own. */
const DIGITS = [1, 2, 3, 4, 5, 6, 7, 8, 9];

export const filmKeys = (tools: FilmTools): StageKey[] => [
  ...DIGITS.filter((n) => n <= tools.names.length).flatMap((n) => [
    { press: String(n), act: () => tools.toggle(tools.names[n - 1]) },
    {
      press: `alt+${n}`,
      act: () =>
        tools.alone(
          tools.names.map((name) => ({ name })),
          n - 1,
        ),
    },
  ]),
  { press: "0", act: tools.all },
  { press: "K", act: () => tools.setShow(tools.show === "films" ? "print" : "films") },
  { press: "E", act: () => tools.setShow(tools.show === "error" ? "print" : "error") },
];

export const FILM_KEYS: readonly (readonly [string, string])[] = [
  ["1 … 9", "Shows or hides a plate"],
  ["Alt + 1 … 9", "One plate alone"],
  ["0", "All plates"],
  ["K", "Plates as black films, or as inks"],
  ["E", "Where the print is off the art"],
];

import { type Ink } from "@hardline/core/film/ink";
import { useMemo, useState } from "react";
import { useSteady } from "../../shared/useSteady";
import { type ToolScene } from "../face";
import { inksOf } from "./inksOf";
import { type FilmsView } from "./worker";

/** What the light table shows: the print, the films it is made of, or where it is off the art. */
export type Show = "print" | "films" | "error";

/** How the films are looked at, and what the hand does; none of it is a setting. */
export function useFilms({ route, layers, shown }: ToolScene) {
  const [show, setShow] = useState<Show>("print");
  const [shiftMm, setShift] = useState(0);
  const [picking, setPicking] = useState(false);
  const [openInk, setOpenInk] = useState<string | null>(null);
  const names = useSteady(inksOf({ route, shown }).map((i) => i.name));
  return useMemo(() => {
    const view: FilmsView = {
      films: show === "films",
      error: show === "error",
      shiftMm,
    };
    const { hidden } = layers;
    return {
      show,
      setShow,
      shiftMm,
      setShift,
      picking,
      setPicking,
      openInk,
      setOpenInk,
      view,
      hidden,
      toggle: layers.toggle,
      /** One plate alone, or all of them again. */
      alone: (inks: readonly Pick<Ink, "name">[], at: number) => {
        const others = inks.filter((_, k) => k !== at).map((i) => i.name);
        const isAlone = others.length > 0 && others.every((n) => hidden.includes(n));
        layers.hide(isAlone && !hidden.includes(inks[at]?.name) ? [] : others);
      },
      all: () => layers.hide([]),
      /** Names of the inks in print order. */
      names,
    };
  }, [show, shiftMm, picking, openInk, layers, names]);
}

export type FilmTools = ReturnType<typeof useFilms>;

import { settingsOf, type Ink } from "@hardline/core";
import { useMemo, useState } from "react";
import { lookOf } from "@hardline/core";
import { type ToolScene } from "../face";
import { type FilmsView } from "./worker";

/** What the light table shows: the print, the films it is made of, or where it is off the art. */
export type Show = "print" | "films" | "error";

/** How the films are looked at, and what the hand does; none of it is a setting. */
export function useFilms({ route, layers }: ToolScene) {
  const [show, setShow] = useState<Show>("print");
  const [shiftMm, setShift] = useState(0);
  const [way, setWay] = useState<number | null>(null);
  const [picking, setPicking] = useState(false);
  const [openInk, setOpenInk] = useState<string | null>(null);
  const settings = settingsOf(route, "films");
  return useMemo(() => {
    const ways = settings?.colourways ?? [];
    const shown = way === null ? undefined : ways[way];
    const view: FilmsView = {
      films: show === "films",
      error: show === "error",
      shiftMm,
      ...(shown ? lookOf(shown) : {}),
    };
    const { hidden } = layers;
    return {
      show,
      setShow,
      shiftMm,
      setShift,
      /** The colourway that is on the light table; null = as separated. */
      way: shown ? way : null,
      setWay,
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
      /** Names of the inks as far as they are listed. */
      names: Array.isArray(settings?.inks) ? settings.inks.map((i) => i.name) : [],
    };
  }, [show, shiftMm, way, picking, openInk, settings, layers]);
}

export type FilmTools = ReturnType<typeof useFilms>;

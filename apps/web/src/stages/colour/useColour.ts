import { useMemo, useState } from "react";
import { type ToolScene } from "../face";
import { type ColourNote } from "./worker";
import { USUAL_PALETTE } from "./model";

/** What the hand does: lays colours under, or draws a shade from one place to another. */
export type ColourHand = "colour" | "shade";

/** What is in hand; nothing of it is a setting. */
export function useColour({ shown }: ToolScene) {
  const [colour, setColour] = useState<string>(USUAL_PALETTE[0]);
  const [hand, setHand] = useState<ColourHand>("colour");
  const note = shown?.notes.colour as ColourNote | undefined;
  return useMemo(() => ({ colour, setColour, hand, setHand, note }), [colour, hand, note]);
}

export type ColourTools = ReturnType<typeof useColour>;

import { defineFace } from "../face";
import { TonePanel } from "./TonePanel";

export const toneFace = defineFace({ id: "tone", Panel: TonePanel });

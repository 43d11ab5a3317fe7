import { defineFace } from "../face";
import { SizePanel } from "./SizePanel";

export const sizeFace = defineFace({ id: "size", Panel: SizePanel });

import { defineFace } from "../face";
import { TracePanel } from "./TracePanel";

export const traceFace = defineFace({ id: "trace", Panel: TracePanel });

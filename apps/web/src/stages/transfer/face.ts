import { defineFace } from "../face";
import { TransferPanel } from "./TransferPanel";

export const transferFace = defineFace({ id: "transfer", Panel: TransferPanel });

import { type HandsProps } from "../face";
import { CropHands } from "./CropHands";
import { PaperHands } from "./paper/PaperHands";
import { type SizeTools } from "./useSizeTools";

/** Whatever is in hand: the piece's box, or a paper's corners. */
export const SizeHands = (props: HandsProps<SizeTools>) =>
  props.tools.placing ? <PaperHands {...props} /> : <CropHands {...props} />;

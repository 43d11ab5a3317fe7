import { type HandsProps } from "../face";
import { AreaHand } from "./photo/AreaHand";
import { FrontHand } from "./photo/FrontHand";
import { PrintsHand } from "./PrintsHand";
import { type MockUpTools } from "./useMockUp";

/** What the pointer does on a mock-up: moves prints, or sets up the photograph that they lie on. */
export function MockUpHands(props: HandsProps<MockUpTools>) {
  const { hand } = props.tools;
  if (hand === "area" || hand === "scale") return <AreaHand {...props} />;
  if (hand === "front" || hand === "frontColour") return <FrontHand {...props} />;
  return <PrintsHand {...props} />;
}

import { defineFace } from "../face";
import { MockUpHands } from "./MockUpHands";
import { MockUpPanel } from "./MockUpPanel";
import { useMockUp, type MockUpTools } from "./useMockUp";

export const mockUpFace = defineFace<MockUpTools>({
  id: "mockUp",
  useTools: useMockUp,
  Panel: MockUpPanel,
  Hands: MockUpHands,
  keyList: [["arrows", "moves the chosen print, with Shift further"]],
});

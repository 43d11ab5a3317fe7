import { defineFace } from "../face";
import { PathHands } from "../paths/PathHands";
import { PATH_KEYS, pathKeys } from "../paths/pathKeys";
import { usePathTools, type PathTools } from "../paths/usePathTools";
import { TracePanel } from "./TracePanel";

export const traceFace = defineFace<PathTools>({
  id: "trace",
  useTools: (scene) => usePathTools("trace", scene),
  Panel: TracePanel,
  Hands: PathHands,
  keys: pathKeys,
  keyList: PATH_KEYS,
});

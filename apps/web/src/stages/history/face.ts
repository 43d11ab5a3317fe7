import { defineFace } from "../face";
import { HistoryPanel } from "./HistoryPanel";
import { onTable, useLooking, type Looking } from "./useLooking";

/** What became of the route, revision by revision: no stage, and always the same route. */
export const historyFace = defineFace<Looking>({
  id: "history",
  title: "History",
  words: ({ saved, watch }) => {
    const by = watch?.routes.find((r) => r.id === saved.id)?.by.name;
    return `r${saved.revision}${by ? `, ${by}` : ""}`;
  },
  useTools: useLooking,
  Panel: HistoryPanel,
  onTable,
});

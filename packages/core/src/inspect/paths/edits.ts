import { type PathEdit } from "../../edit/operations";
import { type Check } from "../check";

/** Edits of a hand that found nothing to act on, since what they were made on is no more; none where all did. */
export function checkEdits(missed: readonly number[] = [], edits: readonly PathEdit[]): Check[] {
  if (missed.length === 0) return [];
  const said = missed.slice(0, 5).map((k) => k + 1);
  return [
    {
      id: "editsMissed",
      level: "look",
      value: missed.length,
      unit: "edits",
      text: missed.length === 1 ? "One edit found nothing" : `${missed.length} edits found nothing`,
      detail: `Number ${said.join(", ")}${missed.length > said.length ? " and more" : ""}: what it was made on is no longer there.`,
      places: [],
      repair: { label: "Forget them", change: { edits: edits.filter((_, k) => !missed.includes(k)) } },
    },
  ];
}

import { type SaveState } from "./Keeper";
import css from "./SaveWords.module.css";

interface Props {
  readonly state: SaveState;
  readonly reason: string | null;
  /** What to say of what is saved. */
  readonly saved: string;
}

/** Whether what is on the page is safe. */
export function SaveWords({ state, reason, saved }: Props) {
  const words = {
    saved,
    saving: "saving …",
    offline: "not saved, server away",
    refused: "not saved, refused",
    conflict: "changed elsewhere",
  }[state];
  return (
    <span className={`${css.save} ${css[state] ?? ""}`} role="status" title={reason ?? undefined}>
      {words}
    </span>
  );
}

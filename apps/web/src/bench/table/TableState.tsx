import { titleOf } from "../../stages/faces";
import { type EngineState } from "../useBench";
import css from "./LightTable.module.css";

/** What stands in for the picture until there is one, how far a long computation is, and what went wrong. */
export function TableState({
  begun,
  fault,
  progress,
  standIn,
}: EngineState & { readonly standIn: string | null }) {
  return (
    <>
      {!begun && !fault && (
        <div
          className={standIn ? css.waiting : css.skeleton}
          role="status"
          aria-label="Reading the artwork"
        />
      )}
      {progress && (
        <div className={css.progress} role="status">
          <span>
            {titleOf(progress.stage)} {Math.round(progress.share * 100)} %
          </span>
          <i style={{ width: `${progress.share * 100}%` }} />
        </div>
      )}
      {fault && (
        <p className={css.fault} role="alert">
          {fault}
        </p>
      )}
    </>
  );
}

import { type Level } from "@hardline/core/inspect/check";
import { useEffect, useRef, type ReactNode } from "react";
import { LevelMark } from "../shared/level";
import css from "./StageRow.module.css";
import { steady } from "../shared/steady";
import { Words } from "../shared/Words";

interface Props {
  readonly number: number;
  readonly title: string;
  readonly summary: string;
  readonly level: Level | "none";
  readonly picture: ImageBitmap | null;
  /** Not on the route: a line of its name alone, as long as it is not opened. */
  readonly absent: boolean;
  readonly open: boolean;
  readonly choose: () => void;
  readonly children: ReactNode;
}

/** A row of the docket: what was decided at one stage. Chosen, it opens in place and shows its settings. */
export const StageRow = steady(Row);

function Row({ number, title, summary, level, picture, absent, open, choose, children }: Props) {
  const slim = absent && !open;
  const panel = useRef<HTMLDivElement>(null);
  const wasAbsent = useRef(absent);
  // What was pressed to put the stage on the route is gone: the focus goes to the first of its settings.
  useEffect(() => {
    if (wasAbsent.current && !absent && open)
      panel.current?.querySelector<HTMLElement>("input, button, select, [tabindex='0']")?.focus();
    wasAbsent.current = absent;
  }, [absent, open]);
  return (
    <section className={`${css.row} ${open ? css.open : ""} ${slim ? css.slim : ""}`}>
      <button type="button" className={css.head} aria-expanded={open} onClick={choose}>
        <span className={`mono ${css.number}`}>{number}</span>
        {!slim && <Picture bitmap={picture} />}
        <span className={css.words}>
          <b>{title}</b>
          <span>
            <Words of={summary} />
          </span>
        </span>
        <LevelMark level={level} />
      </button>
      {open && (
        <div className={css.panel} ref={panel}>
          {children}
        </div>
      )}
    </section>
  );
}

function Picture({ bitmap }: { bitmap: ImageBitmap | null }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pen = canvas.current!.getContext("2d")!;
    pen.clearRect(0, 0, 92, 68);
    if (bitmap)
      pen.drawImage(bitmap, Math.round((92 - bitmap.width) / 2), Math.round((68 - bitmap.height) / 2));
  }, [bitmap]);
  return <canvas ref={canvas} className={css.picture} width={92} height={68} aria-hidden />;
}

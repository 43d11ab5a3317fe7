import { useCallback, useEffect, useRef, useState } from "react";
import { type PickShown, type PickWish } from "./worker";
import { visible } from "../../table/geometry";
import { type TableHand } from "../../table/hand";
import { type HandProps } from "./handProps";
import { placing } from "./placing";
import { answered } from "../../shared/answered";

/** What is under the pointer is shown as a click would take it; the wheel with Alt changes the tolerance. */
export function usePickHand({ engine, tools, finish, frame, placed, box }: HandProps): TableHand {
  const { tolerance, setTolerance, joined, setShare, add } = tools;
  const [preview, setPreview] = useState<(PickShown & { on: { x: number; y: number }; of: string }) | null>(
    null,
  );
  const pointer = useRef<readonly [number, number] | null>(null);
  const busy = useRef(false);
  const wanted = useRef<PickWish | null>(null);
  const seen = visible(placed, box);
  const to = placing(placed, finish, frame);

  // One preview is at work at a time; the newest place of the pointer is served next.
  const serve = useCallback(
    async (on: { x: number; y: number }) => {
      if (busy.current) return;
      busy.current = true;
      while (wanted.current) {
        const wish = wanted.current;
        wanted.current = null;
        const asked = engine.ask<PickShown>({ stage: "clear", name: "pick", wish });
        const shown = await answered(asked, "What would be picked cannot be shown");
        if (pointer.current && shown) {
          setPreview({ ...shown, on, of: `${wish.x} ${wish.y}` });
          setShare(shown.share);
        }
      }
      busy.current = false;
    },
    [engine, setShare],
  );
  const foresee = (x: number, y: number, within = tolerance) => {
    if (!seen || !to.inside(x, y)) return;
    const [dx, dy] = to.toDots(x, y);
    const { part, on } = seen;
    wanted.current = {
      x: Math.min(finish.widthPx - 1, Math.floor(dx)),
      y: Math.min(finish.heightPx - 1, Math.floor(dy)),
      tolerance: within,
      joined,
      part,
      width: on.width,
      height: on.height,
    };
    void serve(on);
  };
  // A changed tolerance, or a moved table, is shown under the resting pointer.
  const view = JSON.stringify([tolerance, joined, placed]);
  useEffect(() => {
    if (pointer.current) foresee(...pointer.current);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `view` stands for all that alters the preview
  }, [view]);

  return {
    cursor: "crosshair",
    told: preview?.of,
    help: `Click takes what is hatched. Alt and wheel: tolerance ${tolerance}. Space moves the picture.`,
    moved: (_, x, y) => {
      pointer.current = to.inside(x, y) ? [x, y] : null;
      if (pointer.current) foresee(x, y);
      else setPreview(null);
    },
    left: () => {
      pointer.current = null;
      setPreview(null);
      setShare(null);
    },
    down: (_, x, y) => {
      if (!to.inside(x, y)) return;
      add({ op: "pick", at: to.toArtwork(x, y), tolerance, joined });
    },
    wheel: (up) => setTolerance(Math.min(60, Math.max(0, tolerance + (up ? 1 : -1)))),
    draw: (pen) => {
      if (preview) pen.drawImage(preview.bitmap, preview.on.x, preview.on.y);
    },
  };
}

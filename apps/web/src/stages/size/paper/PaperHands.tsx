import { Lens } from "@hardline/core/paper/lens";
import { areCorners, type Paper } from "@hardline/core/paper/settings";
import { useEffect, useRef, useState } from "react";
import { Surface } from "../../../table/Surface";
import { answered } from "../../../shared/answered";
import { useAtOnce } from "../../../shared/useAtOnce";
import { type HandsProps } from "../../face";
import { type SizeTools } from "../useSizeTools";
import { ARROWS, fitted, useToolKeys } from "../wholeOnTable";
import { drawPaper } from "./drawPaper";
import { handlesOf, nearest, withHandle, type Handle } from "./handles";
import { foundOn, usePhotograph } from "./photograph";
import { paperOf, rounded } from "./usePaper";

/** The photograph as it was supplied, with the paper's corners, and edges where it is curled, to be dragged on it. */
export function PaperHands({ scene, tools, box }: HandsProps<SizeTools>) {
  const { artwork } = scene.ticket;
  const photograph = usePhotograph(artwork, tools.placing);
  const { paper, put, begin } = paperOf(scene);
  const [nothing, setNothing] = useState(false);
  const [held, setHeld, heldNow] = useAtOnce<Paper | null>(null);
  const [grip, setGrip, gripNow] = useAtOnce<Handle | null>(null);
  const [last, setLast] = useState<Handle>({ of: "corners", at: 0 });
  const now = held ?? paper;

  const latest = useRef({ begin, leave: () => tools.setPlacing(false) });
  useEffect(() => {
    latest.current = { begin, leave: () => tools.setPlacing(false) };
  });
  const looked = useRef(false);
  const wanted = photograph !== null && !paper;
  useEffect(() => {
    if (!wanted) return;
    // It is looked for once; where it is gone after that, by undo, there are no corners left to place.
    if (looked.current) return latest.current.leave();
    looked.current = true;
    let live = true;
    void answered(foundOn(photograph), "The paper's corners could not be looked for").then((found) => {
      if (!live) return; // the tool was put down meanwhile
      setNothing(!found);
      latest.current.begin(found ?? null);
    });
    return () => {
      live = false;
    };
  }, [wanted, photograph]);
  const looking = !paper ? "looking" : nothing ? "nothing" : null;

  const on = fitted(box, artwork);
  const toScreen = ([u, v]: readonly [number, number]) =>
    [on.x + u * on.width, on.y + v * on.height] as const;
  const toPhotograph = (x: number, y: number) => rounded([(x - on.x) / on.width, (y - on.y) / on.height]);
  const nudge = (dx: number, dy: number) => {
    if (!paper) return;
    const handle = handlesOf(paper).find((h) => h.of === last.of && h.at === last.at) ?? handlesOf(paper)[0];
    const [x, y] = toScreen(handle.place);
    const next = withHandle(paper, handle, toPhotograph(x + dx, y + dy));
    if (areCorners(next.corners)) put(next);
  };
  useToolKeys(["n"], (e) => {
    if (e.key === "Enter") return tools.setPlacing(false);
    if (!(e.key in ARROWS)) {
      const all = paper ? handlesOf(paper) : [];
      const next = (all.findIndex((h) => h.of === last.of && h.at === last.at) + 1) % Math.max(1, all.length);
      return all[next] && setLast(all[next]);
    }
    // Fine steps: what is placed here counts in parts of a pixel.
    const far = e.shiftKey ? 4 : 0.4;
    nudge(...(ARROWS[e.key].map((v) => v * far) as [number, number]));
  });

  const help =
    looking === "looking"
      ? "Looking for the paper's corners ..."
      : looking === "nothing"
        ? "No paper stands out here. Drag the corners onto it. Enter: done."
        : "Drag a corner onto the paper's. N: the next one, arrows move it, with Shift further. Enter: done.";
  return (
    <Surface
      box={box}
      hand={{
        cursor: grip ? "none" : "crosshair",
        help,
        told:
          looking ??
          (now
            ? handlesOf(now)
                .map((h) => h.place.map((v) => v.toFixed(4)).join(","))
                .join(" ")
            : ""),
        down: (_e, x, y) => {
          if (!now) return;
          const taken = nearest(handlesOf(now), toScreen, [x, y]);
          if (!taken) return;
          setGrip(taken);
          setLast(taken);
          setHeld(now);
        },
        moved: (_e, x, y) => {
          const [taken, from] = [gripNow(), heldNow()];
          if (!taken || !from) return;
          const next = withHandle(from, taken, toPhotograph(x, y));
          if (areCorners(next.corners)) setHeld(next); // a corner stays where it was before it would point inwards
        },
        up: () => {
          const next = heldNow();
          if (gripNow() && next) put(next);
          setGrip(null);
          setHeld(null);
        },
        draw: (pen) =>
          drawPaper(pen, {
            ...{ box, on, photograph, paper: now ?? null, toScreen },
            lens: now ? new Lens(artwork, now.lens) : null,
            size: artwork,
            grip: grip ?? last,
            magnified: grip,
          }),
      }}
    />
  );
}

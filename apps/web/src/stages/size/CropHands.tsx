import { type Box } from "../../table/geometry";
import { type Finish } from "@hardline/core/result/finish";
import { type PieceShape } from "@hardline/core/stage/size/settings";
import { useEffect, useState } from "react";
import { Surface } from "../../table/Surface";
import { useAtOnce } from "../../shared/useAtOnce";
import { type HandsProps } from "../face";
import { cursorOf, draggedTo, gripAt, LEAST, type CropBox, type Grip } from "./crop";
import { type SizeTools } from "./useSizeTools";
import { ARROWS, fitted, FOOT, useToolKeys } from "./wholeOnTable";
import { answered } from "../../shared/answered";
import { useWords } from "../../shared/unit";

const NEAR = 9;
const LINE = "#1f45c4";
/** The whole artwork on the table, with the piece's box to be dragged on it. */
export function CropHands({ scene, tools, engine, finish, box }: HandsProps<SizeTools>) {
  return tools.cropping ? <Crop {...{ scene, tools, engine, finish, box }} /> : null;
}

function Crop({
  scene,
  tools,
  engine,
  finish,
  box,
}: Pick<HandsProps<SizeTools>, "scene" | "tools" | "engine" | "finish" | "box">) {
  const { frame, set } = scene;
  const shape = scene.route.stages.find((s) => s.stage === "size")!.shape as PieceShape;
  const given: CropBox = shape.kind === "whole" ? [0, 0, 1, 1] : shape.box;
  const [held, setHeld, heldNow] = useAtOnce<CropBox | null>(null); // while dragged; told to the route when let go
  const [grip, setGrip, gripNow] = useAtOnce<Grip | null>(null);
  const [under, setUnder] = useState<Grip | null>(null);
  const now = held ?? given;
  const words = useWords();

  // The artwork's own size in dots of the finish, and where it lies on the table.
  const whole = { width: finish.widthPx / frame.width, height: finish.heightPx / frame.height };
  const on = fitted(box, whole);
  const picture = useArtwork(engine, finish, frame, whole, on);
  const toScreen = (u: number, v: number) => [on.x + u * on.width, on.y + v * on.height] as const;
  const toArtwork = (x: number, y: number) => [(x - on.x) / on.width, (y - on.y) / on.height] as const;

  const put = (next: CropBox) => {
    const rounded = next.map((v) => Math.round(v * 1e6) / 1e6);
    const full = rounded[2] >= 0.9995 && rounded[3] >= 0.9995;
    if (full && (shape.kind === "whole" || shape.kind === "rectangle"))
      return set("size", { shape: { kind: "whole" } });
    set("size", {
      shape: { ...shape, kind: shape.kind === "whole" ? "rectangle" : shape.kind, box: rounded },
    });
  };
  const nudge = (dx: number, dy: number) =>
    put(draggedTo(given, { of: "all", from: [0, 0], box: given }, [dx / on.width, dy / on.height], null));
  useToolKeys([], (e) => {
    if (e.key === "Enter") return tools.setCropping(false);
    const far = e.shiftKey ? 10 : 1;
    nudge(...(ARROWS[e.key].map((v) => v * far) as [number, number]));
  });

  const perDot = finish.widthMm / finish.widthPx;
  const mm = [now[2] * whole.width * perDot, now[3] * whole.height * perDot] as const;
  return (
    <Surface
      box={box}
      hand={{
        cursor: cursorOf(grip ?? under),
        help: "Drag a side, a corner or the box; beside it, a new one. Shift keeps the proportion. Enter: done.",
        told: now.map((v) => v.toFixed(3)).join(" "),
        down: (_e, x, y) => {
          const at = toArtwork(x, y);
          const found = gripAt(now, toScreen, [x, y], at, NEAR);
          const [u, v] = at.map((share) => Math.min(1 - LEAST, Math.max(0, share)));
          setGrip(found ?? { of: "edge", x: 1, y: 1 });
          setHeld(found ? now : [u, v, LEAST, LEAST]);
        },
        moved: (e, x, y) => {
          const at = toArtwork(x, y);
          const taken = gripNow();
          if (!taken) return setUnder(gripAt(now, toScreen, [x, y], at, NEAR));
          setHeld(draggedTo(heldNow() ?? given, taken, at, e.shiftKey ? given[2] / given[3] : null));
        },
        up: () => {
          const last = heldNow();
          if (gripNow() && last) put(last);
          setGrip(null);
          setHeld(null);
        },
        draw: (pen) => {
          pen.fillStyle = "#a8abae";
          pen.fillRect(0, 0, box.width, box.height);
          if (picture) pen.drawImage(picture, on.x, on.y, on.width, on.height);
          const [x, y] = toScreen(now[0], now[1]);
          const [w, h] = [now[2] * on.width, now[3] * on.height];
          pen.fillStyle = "rgb(20 24 29 / 55%)";
          pen.beginPath();
          pen.rect(on.x, on.y, on.width, on.height);
          if (shape.kind === "round") pen.ellipse(x + w / 2, y + h / 2, w / 2, h / 2, 0, 0, 2 * Math.PI);
          else pen.rect(x, y, w, h);
          pen.fill("evenodd");
          pen.strokeStyle = LINE;
          pen.lineWidth = 1.5;
          pen.strokeRect(x, y, w, h);
          pen.fillStyle = "#fff";
          for (const u of [0, 0.5, 1])
            for (const v of [0, 0.5, 1]) {
              if (u === 0.5 && v === 0.5) continue;
              pen.beginPath();
              pen.rect(x + u * w - 3.5, y + v * h - 3.5, 7, 7);
              pen.fill();
              pen.stroke();
            }
          label(
            pen,
            words(`${mm[0].toFixed(1)} × ${mm[1].toFixed(1)} mm as it is scaled now`),
            x + w / 2,
            Math.min(box.height - FOOT + 14, y + h + 20),
          );
        },
      }}
    />
  );
}

/** The artwork's picture for that place, from the worker that has it. */
function useArtwork(
  engine: HandsProps["engine"],
  finish: Finish,
  frame: HandsProps["scene"]["frame"],
  whole: Box,
  on: Box,
) {
  const [picture, setPicture] = useState<ImageBitmap | null>(null);
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [
    Math.max(1, Math.round(on.width * ratio)),
    Math.max(1, Math.round(on.height * ratio)),
  ];
  const part = { x: -frame.x * whole.width, y: -frame.y * whole.height, ...whole };
  const key = JSON.stringify([part, width, height, finish]);
  useEffect(() => {
    let wanted = true;
    const ask = async (tries: number): Promise<void> => {
      const asked = engine.peek({ stage: "artwork", part, width, height, base: 0xffffff });
      const looked = await answered(asked, "The artwork cannot be shown");
      if (!wanted) return;
      if (looked) setPicture(looked.bitmap);
      else if (tries > 0) setTimeout(() => void ask(tries - 1), 150); // the artwork is being read
    };
    void ask(40);
    return () => {
      wanted = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- all of it is in the key
  }, [engine, key]);
  return picture;
}

function label(pen: CanvasRenderingContext2D, text: string, x: number, y: number): void {
  pen.font = "500 12px 'IBM Plex Mono', monospace";
  pen.textAlign = "center";
  const width = pen.measureText(text).width + 14;
  pen.fillStyle = "rgb(255 255 255 / 92%)";
  pen.fillRect(x - width / 2, y - 12, width, 18);
  pen.fillStyle = "#15181d";
  pen.fillText(text, x, y + 1);
}

import { type Ink } from "@hardline/core/film/ink";
import { type Colourway } from "@hardline/core/recolour/colourway";
import { stageById, type StageId } from "@hardline/core/stage/stages";
import { Modal } from "@mantine/core";
import { useEffect, useRef } from "react";
import { type Pane } from "../../engine/protocol";
import { type BenchScene } from "../face";
import css from "./Colourways.module.css";
import { garmentOf } from "./ways";

interface Props {
  readonly scene: BenchScene;
  readonly inks: readonly Ink[];
  readonly close: () => void;
}

/** All colourways side by side, as large as there is room for. */
export function WaysBeside({ scene, inks, close }: Props) {
  const { route } = scene;
  const stage = route.stages.findLast((s) => stageById(s.stage).inColourways)!.stage;
  const ways: readonly (Colourway | null)[] = [null, ...route.colourways];
  return (
    <Modal opened onClose={close} size="min(1180px, 94vw)" title="Colourways side by side">
      <div className={css.beside}>
        {ways.map((way) => (
          <figure key={way?.name ?? ""}>
            <div style={{ background: stage === "mockUp" ? "#eeece7" : (way?.garment ?? garmentOf(route)) }}>
              <WayPicture {...{ scene, stage, way }} />
            </div>
            <figcaption>
              <b>{way?.name ?? "As it is"}</b>
              <span>
                {inks.map((ink) => (
                  <i
                    key={ink.name}
                    title={ink.name}
                    style={{ background: way?.colours[ink.name] ?? ink.colour }}
                  />
                ))}
                {way?.recolour.map((c, k) => (
                  <i
                    key={k}
                    title="becomes"
                    style={{ background: "colour" in c.to ? c.to.colour : c.from }}
                  />
                ))}
              </span>
            </figcaption>
          </figure>
        ))}
      </div>
    </Modal>
  );
}

const ROOM = { width: 270, height: 230 };

interface PictureProps {
  readonly scene: BenchScene;
  readonly stage: StageId;
  readonly way: Colourway | null;
}

function WayPicture({ scene: { engine, route, finish: piece }, stage, way }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const settings = route.stages.find((s) => s.stage === stage)!;
  const finish = stageById(stage).canvas?.(settings).finish ?? piece;
  const wanted = JSON.stringify([way, finish]);
  useEffect(() => {
    if (!engine || !finish) return;
    let current = true;
    const { widthPx, heightPx } = finish;
    const scale = Math.min(ROOM.width / widthPx, ROOM.height / heightPx);
    const ratio = window.devicePixelRatio || 1;
    const [width, height] = [widthPx, heightPx].map((side) => Math.max(1, Math.round(side * scale * ratio)));
    const part = { x: 0, y: 0, width: widthPx, height: heightPx };
    const pane: Pane = { stage, part, width, height, base: 0xffffff, ...(way ? { way } : {}) };
    void engine.peek(pane).then((peeked) => {
      if (!current || !peeked || !canvas.current) return;
      [canvas.current.width, canvas.current.height] = [width, height];
      canvas.current.style.width = `${width / ratio}px`;
      canvas.current.getContext("2d")!.drawImage(peeked.bitmap, 0, 0);
    });
    return () => {
      current = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `wanted` stands for the way and the finish
  }, [engine, stage, wanted]);
  return <canvas ref={canvas} role="img" aria-label={`In ${way?.name ?? "the colours that it has"}`} />;
}

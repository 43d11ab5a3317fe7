import { type Ink } from "@hardline/core/film/ink";
import { wayView } from "@hardline/core/stage/films/colourway";
import { type FilmsSettings } from "@hardline/core/stage/films/settings";
import { Modal } from "@mantine/core";
import { useEffect, useRef } from "react";
import { type Pane } from "../../engine/protocol";
import { type BenchScene } from "../face";
import css from "./Films.module.css";

interface Props {
  readonly scene: BenchScene;
  readonly inks: readonly Ink[];
  readonly settings: FilmsSettings;
  readonly close: () => void;
}

/** All colourways side by side, as large as there is room for. */
export function WaysBeside({ scene, inks, settings, close }: Props) {
  const { garment, colourways } = settings;
  const ways = [{ name: "As separated", garment, colours: {} as Record<string, string> }, ...colourways];
  return (
    <Modal opened onClose={close} size="min(1180px, 94vw)" title="Colourways side by side">
      <div className={css.beside}>
        {ways.map((way, k) => (
          <figure key={k}>
            <div style={{ background: way.garment }}>
              <WayPicture {...{ scene }} way={wayView(way)} />
            </div>
            <figcaption>
              <b>{way.name}</b>
              <span>
                {inks.map((ink) => (
                  <i
                    key={ink.name}
                    title={ink.name}
                    style={{ background: way.colours[ink.name] ?? ink.colour }}
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

function WayPicture({
  scene: { engine, finish },
  way,
}: {
  scene: BenchScene;
  way: ReturnType<typeof wayView>;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const wanted = JSON.stringify(way);
  useEffect(() => {
    if (!engine || !finish) return;
    let current = true;
    const { widthPx, heightPx } = finish;
    const scale = Math.min(ROOM.width / widthPx, ROOM.height / heightPx);
    const ratio = window.devicePixelRatio || 1;
    const [width, height] = [widthPx, heightPx].map((side) => Math.max(1, Math.round(side * scale * ratio)));
    const part = { x: 0, y: 0, width: widthPx, height: heightPx };
    const pane: Pane = { stage: "films", part, width, height, base: 0xffffff, view: JSON.parse(wanted) };
    void engine.peek(pane).then((peeked) => {
      if (!current || !peeked || !canvas.current) return;
      [canvas.current.width, canvas.current.height] = [width, height];
      canvas.current.style.width = `${width / ratio}px`;
      canvas.current.getContext("2d")!.drawImage(peeked.bitmap, 0, 0);
    });
    return () => {
      current = false;
    };
  }, [engine, finish, wanted]);
  return <canvas ref={canvas} role="img" aria-label="The print in this colourway" />;
}

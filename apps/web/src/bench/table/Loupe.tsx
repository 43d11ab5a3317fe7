import { type Appearance } from "@hardline/core/appearance/onMaterial";
import { type Finish } from "@hardline/core/result/finish";
import { type StageId } from "@hardline/core/stage/stages";
import { useEffect, useRef, useState } from "react";
import { type BenchEngine } from "../../engine/BenchEngine";
import css from "./LightTable.module.css";
import { type Pointed } from "./pointed";
import { mayAct } from "../../shared/keys";

const SIZE = 174;
const TIMES = 4;

interface Props {
  readonly engine: BenchEngine | null;
  readonly pointer: readonly [number, number] | null;
  readonly pointed: Pointed | null;
  readonly finish: Finish | null;
  readonly stage: StageId;
  readonly base: number;
  readonly view: unknown;
  readonly hidden: readonly string[];
  readonly appearance?: Appearance;
}

/** A round magnifier under the pointer while L is held: every dot four screen pixels wide. */
export function Loupe({ engine, pointer, pointed, finish, stage, base, view, hidden, appearance }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [held, setHeld] = useState(false);
  const [share, setShare] = useState<number | null>(null);

  useEffect(() => {
    const isKey = (e: KeyboardEvent) => e.key.toLowerCase() === "l" && !e.ctrlKey && !e.metaKey;
    const down = (e: KeyboardEvent) => isKey(e) && mayAct(e.key, document.activeElement) && setHeld(true);
    const up = (e: KeyboardEvent) => e.key.toLowerCase() === "l" && setHeld(false);
    const away = () => setHeld(false);
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", away);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", away);
    };
  }, []);

  const [x, y] = pointed ? [Math.floor(pointed.x), Math.floor(pointed.y)] : [NaN, NaN];
  const on = held && pointer !== null && finish !== null && engine !== null;
  useEffect(() => {
    if (!on || Number.isNaN(x)) return;
    let current = true;
    const dots = SIZE / TIMES;
    const part = { x: x - dots / 2, y: y - dots / 2, width: dots, height: dots };
    const pane = { stage, part, width: SIZE, height: SIZE, base, view, hidden, appearance };
    void engine.peek(pane).then((peeked) => {
      if (!current || !peeked || !canvas.current) return;
      const pen = canvas.current.getContext("2d")!;
      pen.clearRect(0, 0, SIZE, SIZE);
      pen.drawImage(peeked.bitmap, 0, 0);
      setShare(peeked.markedPercent);
    });
    return () => {
      current = false;
    };
  }, [on, engine, x, y, stage, base, view, hidden, appearance]);

  if (!on) return null;
  const style = { left: pointer[0], top: pointer[1] };
  return (
    <>
      <div className={css.loupe} style={style}>
        <canvas
          ref={canvas}
          width={SIZE}
          height={SIZE}
          role="img"
          aria-label="Under the loupe, dot for dot"
        />
      </div>
      <div className={`mono ${css.loupeWords}`} style={style}>
        {`${TIMES}:1${share === null ? "" : `   ${share} % dots`}`}
      </div>
    </>
  );
}

export const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable);

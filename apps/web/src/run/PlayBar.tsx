import { Slider } from "@mantine/core";
import { useEffect, useRef } from "react";
import { clockText } from "../shared/time";
import css from "./PlayBar.module.css";

export const PACES = [1, 10, 100, 1000] as const;
export type Pace = (typeof PACES)[number];

interface Props {
  readonly seconds: number;
  readonly second: number;
  readonly setSecond: (second: number) => void;
  readonly playing: boolean;
  readonly setPlaying: (on: boolean) => void;
  readonly pace: Pace;
  readonly setPace: (pace: Pace) => void;
  /** What is going on at this second, in a word or two. */
  readonly doing: string;
}

/** The run as a strip of film: played at one to a thousand times its speed, or drawn along by hand. */
export function PlayBar({ seconds, second, setSecond, playing, setPlaying, pace, setPace, doing }: Props) {
  const now = useRef(second);
  useEffect(() => {
    now.current = second;
  }, [second]);
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    let last = performance.now();
    const step = (at: number): void => {
      const next = Math.min(seconds, now.current + ((at - last) / 1000) * pace);
      last = at;
      now.current = next;
      setSecond(next);
      if (next >= seconds) setPlaying(false);
      else frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, pace, seconds, setSecond, setPlaying]);
  const toggle = (): void => {
    if (!playing && second >= seconds) setSecond(0);
    setPlaying(!playing);
  };
  return (
    <div className={css.bar} role="group" aria-label="Play the run">
      <button type="button" className={css.play} onClick={toggle} title="Play or stand still (space)">
        {playing ? "Stand still" : "Play"}
      </button>
      <div className={css.paces} role="radiogroup" aria-label="Times its own speed">
        {PACES.map((p) => (
          <button key={p} type="button" role="radio" aria-checked={p === pace} onClick={() => setPace(p)}>
            {p}×
          </button>
        ))}
      </div>
      <Slider
        className={css.slider}
        thumbLabel="Second of the run"
        min={0}
        max={Math.max(0.1, seconds)}
        step={0.01}
        label={null}
        value={second}
        onChange={(v) => {
          setPlaying(false);
          setSecond(v);
        }}
      />
      <span className={`mono ${css.clock}`}>
        {clockText(second)} / {clockText(seconds)}
      </span>
      <span className={css.doing}>{doing}</span>
    </div>
  );
}

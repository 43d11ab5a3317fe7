import { grayRamp, onMaterial, type Appearance } from "@hardline/core/appearance/onMaterial";
import { runToEnd } from "@hardline/core/maths/work";
import { useEffect, useRef } from "react";
import css from "./Materials.module.css";

const [WIDTH, HEIGHT] = [120, 34];
/** Millimetres that the swatch shows across. */
const ACROSS_MM = 24;

/** A ramp from bare to marked on the material, as the light table would show it. */
export function Swatch({ material }: { material: Appearance }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { bareColour, markColour, grain, grainStrength, spreadMm } = material;
  useEffect(() => {
    const pen = canvas.current!.getContext("2d")!;
    const tone = grayRamp(WIDTH, HEIGHT, ACROSS_MM);
    const view = {
      part: { x: 0, y: 0, width: WIDTH, height: HEIGHT },
      width: WIDTH,
      height: HEIGHT,
      base: 0,
    };
    const appearance = { bareColour, markColour, grain, grainStrength, spreadMm };
    const { data } = runToEnd(onMaterial(tone, view, appearance)); // four thousand pixels
    pen.putImageData(new ImageData(new Uint8ClampedArray(data), WIDTH, HEIGHT), 0, 0);
  }, [bareColour, markColour, grain, grainStrength, spreadMm]);
  return <canvas ref={canvas} className={css.swatch} width={WIDTH} height={HEIGHT} aria-hidden />;
}

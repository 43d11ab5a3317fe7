import { existsSync } from "node:fs";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import sharp from "sharp";
import { HarbourLight, type View } from "./harbourLight";
import { clamp, Noise } from "./noise";

/** Develops rendered light as a camera would: a soft lens, a film-like response, sensor noise, JPEG. */
export async function photograph(
  width: number,
  height: number,
  quality: number,
  view?: View,
): Promise<Buffer> {
  const light = await rendered(width, height, view);
  const coded = Buffer.alloc(width * height * 3);
  for (let i = 0; i < coded.length; i++) {
    const x = light[i] * 0.8;
    const film = (x * (2.51 * x + 0.03)) / (x * (2.43 * x + 0.59) + 0.14);
    coded[i] = 255 * clamp(film) ** (1 / 2.2);
  }
  const soft = await sharp(coded, { raw: { width, height, channels: 3 } })
    .blur(0.8)
    .raw()
    .toBuffer();
  const noise = new Noise(77);
  for (let i = 0; i < soft.length; i += 3) {
    const grain = (noise.random() + noise.random() + noise.random() - 1.5) * 11 * (1.1 - soft[i + 1] / 320);
    for (let c = 0; c < 3; c++) soft[i + c] = clamp(soft[i + c] + grain + (noise.random() - 0.5) * 5, 0, 255);
  }
  return sharp(soft, { raw: { width, height, channels: 3 } })
    .jpeg({ quality, chromaSubsampling: "4:2:0" })
    .toBuffer();
}

/** The picture's light, its rows shared out to as many threads as there are cores when it is a large one. */
async function rendered(width: number, height: number, view?: View): Promise<Float32Array> {
  const script = join(__dirname, "renderThread.js"); // there once built; tests render small pictures from source
  if (width * height < 1e6 || !existsSync(script))
    return new HarbourLight(view, 256).rows(width, height, 0, height);
  const light = new Float32Array(width * height * 3);
  const bands = Array.from({ length: 24 }, (_, i) => ({
    from: Math.round((i * height) / 24),
    to: Math.round(((i + 1) * height) / 24),
  }));
  const drawBands = async () => {
    const worker = new Worker(script, { workerData: { width, height, view } });
    for (let band = bands.shift(); band; band = bands.shift()) {
      worker.postMessage(band);
      const rows = await new Promise<Float32Array>((done, failed) =>
        worker.once("message", done).once("error", failed),
      );
      worker.removeAllListeners("error");
      light.set(rows, band.from * width * 3);
    }
    await worker.terminate();
  };
  await Promise.all(Array.from({ length: availableParallelism() }, drawBands));
  return light;
}

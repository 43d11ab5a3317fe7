import { parentPort, workerData } from "node:worker_threads";
import { HarbourLight, type View } from "./harbourLight";

const { width, height, view } = workerData as { width: number; height: number; view?: View };
const scene = new HarbourLight(view);
parentPort!.on("message", ({ from, to }: { from: number; to: number }) => {
  const rows = scene.rows(width, height, from, to);
  parentPort!.postMessage(rows, [rows.buffer as ArrayBuffer]);
});

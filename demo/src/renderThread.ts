import { parentPort, workerData } from "node:worker_threads";
import { HarbourLight, type View } from "./harbourLight";

const { width, height, from, to, view } = workerData as { width: number; height: number; from: number; to: number; view?: View };
const rows = new HarbourLight(view).rows(width, height, from, to);
parentPort!.postMessage(rows, [rows.buffer as ArrayBuffer]);

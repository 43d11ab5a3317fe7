import { type StageId } from "@hardline/core/stage/stages";
import { clearWorker } from "./clear/worker";
import { colourWorker } from "./colour/worker";
import { cutLineWorker } from "./cutLine/worker";
import { filmsWorker } from "./films/worker";
import { mockUpWorker } from "./mockUp/worker";
import { transferWorker } from "./transfer/worker";
import { type StageWorker } from "./stageWorker";

/** Stages that bring something of their own to the worker; the others are shown by the kind of their result alone. */
const WORKERS: Partial<Record<StageId, StageWorker>> = {
  clear: clearWorker,
  colour: colourWorker,
  cutLine: cutLineWorker,
  films: filmsWorker,
  transfer: transferWorker,
  mockUp: mockUpWorker,
};

export const stageWorker = (id: StageId): StageWorker => WORKERS[id] ?? {};

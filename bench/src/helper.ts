import { SHAREABLE } from "@hardline/core/route/shareable";
import { joinIn, type SharedJob } from "@hardline/core/hands/shareOut";
import { runToEnd } from "@hardline/core/maths/work";
import { parentPort } from "node:worker_threads";

/* A thread that takes parts of whatever is shared out. */
parentPort!.on("message", (job: SharedJob) => runToEnd(joinIn(job, SHAREABLE)));

import { Injectable, type OnApplicationShutdown } from "@nestjs/common";
import { join } from "node:path";
import { ProblemException } from "../http/problems";
import { Lane } from "../processes/lane";
import { type Answer, type Asked, type Task, type Tasks } from "./protocol";

const GB = 2 ** 30;
const CALCULATOR = { script: join(__dirname, "calculator.js"), memoryBytes: 2 * GB, behind: 2 };

/** Computes in processes of their own what may take long: a lane for who waits at a screen, one for machines. */
@Injectable()
export class Calculating implements OnApplicationShutdown {
  private readonly lanes = {
    screen: new Lane<Asked, Answer>({
      ...CALCULATOR,
      ...{ name: "calculating for the screen", seconds: 20, mostWaiting: 64 },
      ...{ words: ["computations", "done"], advice: "Use fewer or simpler pieces." },
    }),
    machines: new Lane<Asked, Answer>({
      ...CALCULATOR,
      ...{ name: "calculating for machines", seconds: 120, mostWaiting: 64 },
      ...{ words: ["programs", "looked through"], advice: "Make the job simpler." },
    }),
  };

  /** @throws ProblemException when it cannot be done as it is; IntakeError when it takes too much */
  async do<K extends Task>(lane: "screen" | "machines", task: K, asked: Tasks[K][0]): Promise<Tasks[K][1]> {
    const answer = await this.lanes[lane].ask({ task, asked } as Asked);
    if ("answer" in answer) return answer.answer as Tasks[K][1];
    if ("refused" in answer) throw new ProblemException(422, "Cannot be done", answer.refused);
    throw new Error(answer.fault);
  }

  onApplicationShutdown(): void {
    for (const lane of Object.values(this.lanes)) lane.close();
  }
}

import { type RunView } from "@hardline/contract";
import { figure } from "@hardline/core/inspect/check";
import { programExtension } from "@hardline/core/machine/machine";
import { timeText } from "../shared/time";
import { Figures } from "../shell/bay/Bay";

/** What is measured of a run, before it and after. */
export function RunReadings({ run }: { run: RunView }) {
  const plan = run.plan!;
  const mm = (v: number) => `${figure(v, 1)} mm`;
  return (
    <>
      <h2>Time</h2>
      <Figures
        of={[
          ["Estimated", timeText(plan.seconds), true],
          ...plan.passes.map((p) => [p.name, timeText(p.seconds)] as const),
          ...(run.seconds !== null ? ([["Machine's own clock", timeText(run.seconds)]] as const) : []),
          ...(run.seconds !== null && run.state === "done"
            ? ([
                ["Estimate off by", `${figure(100 * Math.abs(plan.seconds / run.seconds - 1), 2)} %`],
              ] as const)
            : []),
        ]}
      />
      <h2>Way of the head</h2>
      <Figures
        of={[
          ["Travels", `${figure(plan.travels.width, 1)} × ${mm(plan.travels.height)}`],
          ["Piece", `${figure(plan.widthMm, 1)} × ${mm(plan.heightMm)}`],
          ...(plan.cornersSeconds > 0.05
            ? ([["Corners left out", timeText(plan.cornersSeconds)]] as const)
            : []),
          ["Travel saved", mm(plan.savedMm)],
        ]}
      />
      {run.camera && (
        <>
          <h2>As the camera found it</h2>
          <Figures
            of={[
              ["Turned", `${figure(run.camera.turnDegrees, 2)}°`],
              ["Shifted", mm(run.camera.shiftMm)],
              ["Marks used", `${run.camera.used} of ${run.camera.of}`],
              ["Marks off by", `${figure(run.camera.offMm, 3)} mm`],
            ]}
          />
        </>
      )}
      {run.made && (
        <>
          <h2>What was burned</h2>
          <Figures
            of={[
              ["Equal to the bitmap", run.made.equal ? "dot for dot" : "no"],
              ["Dots burned twice", String(run.made.twice)],
            ]}
          />
          <a href={run.burnedUrl!} target="_blank" rel="noreferrer">
            The burned picture
          </a>
          <br />
          <a
            href={`/api/runs/${run.id}/photo`}
            download
            title="As a camera held by hand sees the simulated piece"
          >
            A photograph of the piece
          </a>
        </>
      )}
      <h2>Program</h2>
      <Figures
        of={[
          ["Lines", String(plan.lines)],
          ["Bytes", `${figure(plan.bytes / 1000, 1)} kB`],
          ["SHA-256", plan.sha256.slice(0, 12)],
        ]}
      />
      <a href={run.programUrl!} download={`run-${run.id}.${programExtension(plan.mediaType)}`}>
        The very bytes that are sent
      </a>
    </>
  );
}

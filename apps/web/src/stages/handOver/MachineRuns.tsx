import { Select } from "../../shared/fields/controls";
import { Link, useNavigate } from "react-router";
import { newRun, useMachines, useRunsOf } from "../../api/machines";
import { tellFault } from "../../shared/tell";
import { timeText } from "../../shared/time";
import { type PanelProps } from "../face";
import css from "./HandOverPanel.module.css";
import { Trouble } from "../../shared/Trouble";

/** To a machine: its program is planned and played before anything is sent; and what was run so far. */
export function MachineRuns({ scene: { keeper, saved, ticket } }: Pick<PanelProps, "scene">) {
  const asked = [useMachines(), useRunsOf("tickets", ticket.id)] as const;
  const { data: machines = [] } = asked[0];
  const { data: runs = [] } = asked[1];
  const navigate = useNavigate();
  const plan = async (machine: string | null): Promise<void> => {
    if (!machine) return;
    try {
      await keeper.flush();
      if (keeper.get().state !== "saved")
        throw new Error("The route is not saved yet, so another would be run than is shown.");
      void navigate(
        `/runs/${(await newRun({ machine, routeId: saved.id, revision: keeper.get().view.revision })).id}`,
      );
    } catch (error) {
      keeper.refused(error);
      tellFault("The run was not planned", error);
    }
  };
  return (
    <div className={css.done}>
      <Trouble title="Machines and runs cannot be shown" of={asked} />
      <Select
        aria-label="Run on a machine"
        placeholder="Run on a machine"
        data={machines.map(({ machine }) => ({ value: machine.key, label: machine.name }))}
        value={null}
        onChange={(key) => void plan(key)}
      />
      {runs.length > 0 && (
        <ul>
          {runs.slice(0, 8).map((run) => (
            <li key={run.id}>
              <Link to={`/runs/${run.id}`} title={run.name}>
                Run {run.id}, {run.machine}
              </Link>
              <span className="mono">
                {run.state === "done" && run.seconds !== null ? timeText(run.seconds) : run.state}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

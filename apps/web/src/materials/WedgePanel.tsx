import { type CurveView, type MaterialView, type TicketView } from "@hardline/contract";
import { figure } from "@hardline/core/inspect/check";
import { curveThrough } from "@hardline/core/tone/curve";
import { STEPS } from "@hardline/core/wedge/layout";
import { Button, FileInput, Modal, Textarea } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import dayjs from "dayjs";
import { useState } from "react";
import { Line } from "react-chartjs-2";
import { useNavigate } from "react-router";
import { takeIn } from "../api/artworks";
import { ask } from "../api/client";
import "../shared/chart";
import { tellFault } from "../shared/tell";
import css from "./WedgePanel.module.css";
import { Words } from "../shared/Words";

/** How a material answers: its wedge is made here as a job, and measured here, by a photograph or by readings. */
export function WedgePanel({ material, close }: { material: MaterialView; close: () => void }) {
  const { key, name } = material;
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { data: curves = [] } = useQuery({
    queryKey: ["curves", key],
    queryFn: () => ask<CurveView[]>(`/api/materials/${key}/curves`),
  });
  const [shown, setShown] = useState<number | null>(null);
  const [typed, setTyped] = useState("");
  const [busy, setBusy] = useState(false);
  const curve = curves.find((c) => c.version === shown) ?? curves[0];

  const doing = async (title: string, act: () => Promise<void>): Promise<void> => {
    setBusy(true);
    try {
      await act();
    } catch (error) {
      tellFault(title, error);
    }
    setBusy(false);
  };
  const measured = async (view: CurveView): Promise<void> => {
    setShown(view.version);
    await queries.invalidateQueries({ queryKey: ["curves", key] });
    await queries.invalidateQueries({ queryKey: ["materials"] });
  };
  const make = (proof: boolean) =>
    doing("No wedge was made", async () => {
      const ticket = await ask<TicketView>(`/api/materials/${key}/wedge${proof ? "?proof=1" : ""}`, {
        method: "POST",
      });
      await queries.invalidateQueries({ queryKey: ["tickets"] });
      void navigate(`/tickets/${ticket.id}`);
    });
  const photo = (file: File | null) =>
    file &&
    void doing("No wedge was read", async () => {
      const { id } = await takeIn(file);
      await measured(await ask<CurveView>(`/api/materials/${key}/curves/photo/${id}`, { method: "POST" }));
    });
  const type = () =>
    doing("The readings were not taken", async () => {
      const readings = typed
        .trim()
        .split(/\n+/)
        .map((line) =>
          line
            .trim()
            .split(/[\s,;]+/)
            .map(Number),
        );
      await measured(
        await ask<CurveView>(`/api/materials/${key}/curves`, { method: "POST", json: { readings } }),
      );
    });
  return (
    <Modal opened onClose={close} title={`Step wedge, ${name}`} size="xl">
      <div className={css.panel}>
        <div>
          {curve ? (
            <>
              <CurveChart curve={curve} />
              <p className={css.note}>
                Wedge {curve.version}, {dayjs(curve.createdAt).format("D MMM YYYY HH:mm")}, by{" "}
                {curve.from === "typed" ? "typed readings" : "a photograph"}. The curve lies{" "}
                <b className="mono">{figure(curve.errorPercent, 2)} %</b> off the readings, at most{" "}
                <b className="mono">{figure(curve.mostPercent, 2)} %</b>.
                {curve.held && (
                  <Words
                    of={` Held: ${from("dots", curve.held.dotMm)}, ${from("lines", curve.held.strokeMm)}, ${from("gaps", curve.held.gapMm)}; these are the material's limits now.`}
                  />
                )}
              </p>
            </>
          ) : (
            <p className={css.none}>
              No wedge was measured on {name} yet. Make one, burn it on a scrap, photograph it with some bare
              material round it, and drop the photograph here.
            </p>
          )}
        </div>
        <div className={css.side}>
          <Button onClick={() => void make(false)} loading={busy}>
            Make its wedge
          </Button>
          {curve && (
            <Button variant="default" onClick={() => void make(true)} disabled={busy}>
              Make one with the curve
            </Button>
          )}
          <FileInput
            label="Photograph of the burned wedge"
            placeholder="Choose it, or drop it here"
            accept="image/*"
            disabled={busy}
            value={null}
            onChange={photo}
          />
          <Textarea
            label="Or readings: percent made, percent seen"
            placeholder={STEPS.slice(1, 5)
              .map((p) => `${p} …`)
              .join("\n")}
            minRows={4}
            autosize
            maxRows={8}
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Button variant="default" disabled={busy || typed.trim() === ""} onClick={() => void type()}>
            Take the readings
          </Button>
          {curves.length > 1 && (
            <ul className={css.versions}>
              {curves.map((c) => (
                <li key={c.version}>
                  <button
                    type="button"
                    aria-pressed={c.version === curve?.version}
                    onClick={() => setShown(c.version)}
                  >
                    Wedge {c.version}, {dayjs(c.createdAt).format("D MMM HH:mm")}
                  </button>
                </li>
              ))}
            </ul>
          )}
        </div>
      </div>
    </Modal>
  );
}

const from = (what: string, mm: number | null): string =>
  mm === null ? `no ${what}` : `${what} from ${figure(mm, 2)} mm`;

/** Readings, the curve through them, and the straight line that it is turned into. */
function CurveChart({ curve }: { curve: CurveView }) {
  const through = curveThrough(curve.points);
  const steps = Array.from({ length: 51 }, (_, k) => k / 50);
  const data = {
    datasets: [
      {
        data: curve.readings.map(([x, y]) => ({ x: 100 * x, y: 100 * y })),
        showLine: false,
        pointRadius: 3.5,
        clip: 6, // the first and the last step lie on the frame
        pointBackgroundColor: "#15181d",
        borderColor: "#15181d",
      },
      {
        data: steps.map((x) => ({ x: 100 * x, y: 100 * through(x) })),
        pointRadius: 0,
        borderColor: "#1f45c4",
        borderWidth: 2,
      },
      {
        data: [
          { x: 0, y: 0 },
          { x: 100, y: 100 },
        ],
        pointRadius: 0,
        borderColor: "#8d9294",
        borderWidth: 1,
        borderDash: [3, 4],
      },
    ],
  };
  const axis = (text: string) => ({
    type: "linear" as const,
    min: 0,
    max: 100,
    title: { display: true, text },
  });
  return (
    <div className={css.chart}>
      <Line
        data={data}
        options={{
          maintainAspectRatio: false,
          scales: { x: axis("made, % of dots"), y: axis("seen, % of a full mark") },
          plugins: { legend: { display: false }, tooltip: { enabled: false } },
        }}
        aria-label={`Readings and curve of wedge ${curve.version}`}
        role="img"
      />
    </div>
  );
}

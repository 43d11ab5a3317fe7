import { type RenderView, type RouteView } from "@hardline/contract";
import { Button, Progress } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import dayjs from "dayjs";
import { useEffect, useState } from "react";
import { ask } from "../../api/client";
import { tellFault } from "../../shared/tell";
import { type Kept, type RouteKeeper } from "../RouteKeeper";
import css from "./HandOverPanel.module.css";
import { useRenderEvents } from "./useRenderEvents";

interface Props {
  readonly keeper: RouteKeeper;
  readonly saved: RouteView;
  readonly state: Kept["state"];
  /** Fingerprint of the dots on the light table; null until they have been looked at. */
  readonly dotsSha256: string | null;
  /** Rises each time the column's own button asks for the files. */
  readonly handOvers: number;
}

/** The last request that was answered; the panel comes and goes with its row, the count does not. */
const answered = new WeakMap<RouteKeeper, number>();

/** Makes the files on the server and lists every hand-over of this route. */
export function HandOverPanel({ keeper, saved, state, dotsSha256, handOvers }: Props) {
  const queries = useQueryClient();
  const key = ["renders", saved.id];
  const { data: renders = [] } = useQuery({ queryKey: key, queryFn: () => ask<RenderView[]>(`/api/routes/${saved.id}/renders`) });
  const [asking, setAsking] = useState(false);
  const busy = renders.find((r) => r.state === "waiting" || r.state === "running");
  useRenderEvents(busy?.id ?? null, (render) => {
    queries.setQueryData<RenderView[]>(key, (old = []) => old.map((r) => (r.id === render.id ? render : r)));
    if (render.state === "done") void queries.invalidateQueries({ queryKey: ["ticket", saved.ticketId] });
  });

  async function make(): Promise<void> {
    setAsking(true);
    try {
      await keeper.flush();
      if (keeper.get().state !== "saved") throw new Error("The route is not saved yet, so its files would not be what is shown.");
      const render = await ask<RenderView>(`/api/routes/${saved.id}/renders`, { method: "POST" });
      queries.setQueryData<RenderView[]>(key, (old = []) => [render, ...old]);
    } catch (error) {
      tellFault("The files were not asked for", error);
    }
    setAsking(false);
  }

  useEffect(() => {
    if (handOvers <= (answered.get(keeper) ?? 0)) return;
    answered.set(keeper, handOvers);
    if (!busy) void make();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only a new request starts the files
  }, [handOvers]);

  return (
    <>
      <Button onClick={() => void make()} loading={asking} disabled={!!busy || state === "conflict"} fullWidth>
        Make the files
      </Button>
      {busy && (
        <div role="status">
          <div className={css.doing}>
            <span>{busy.doing}</span>
            <span className="mono">{Math.round(busy.progress * 100)} %</span>
          </div>
          <Progress value={busy.progress * 100} size="sm" radius={0} transitionDuration={200} />
        </div>
      )}
      {renders
        .filter((r) => r.state === "done" || r.state === "failed")
        .map((render, i) => (
          <HandOver key={render.id} render={render} newest={i === 0} dotsSha256={render.revision === saved.revision && state === "saved" ? dotsSha256 : null} />
        ))}
    </>
  );
}

function HandOver({ render, newest, dotsSha256 }: { render: RenderView; newest: boolean; dotsSha256: string | null }) {
  const when = `Revision ${render.revision}, ${dayjs(render.createdAt).format("D MMM HH:mm")}`;
  if (render.state === "failed") {
    return (
      <div className={css.failed} role="alert">
        <b>{when}</b>: {render.error}
      </div>
    );
  }
  return (
    <details className={css.done} open={newest}>
      <summary>
        <b>{when}</b>
        <a href={render.zipUrl!} download>
          All as zip
        </a>
      </summary>
      {dotsSha256 && (
        <p className={dotsSha256 === render.dotsSha256 ? css.same : css.other}>
          {dotsSha256 === render.dotsSha256 ? "Same dots as on the light table" : "Not the dots on the light table: make the files again"}
          <span className="mono">{render.dotsSha256?.slice(0, 12)}</span>
        </p>
      )}
      <ul>
        {render.files.map((f) => (
          <li key={f.name}>
            <a href={f.url} download title={`${f.name}, SHA-256 ${f.sha256}`}>
              {shortName(f.name)}
            </a>
            <span className="mono">{sizeText(f.bytes)}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The file's own part of its name; the whole name is on the file and in the tooltip. */
const shortName = (name: string): string => name.replace(/^.*-\d+r\d+-/, "");
const sizeText = (bytes: number): string => (bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

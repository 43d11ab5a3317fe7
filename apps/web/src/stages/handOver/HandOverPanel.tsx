import { type RenderView } from "@hardline/contract";
import { Button, Progress } from "@mantine/core";
import dayjs from "dayjs";
import { useStripRemoval, useStrips } from "../../api/house";
import { tellFault } from "../../shared/tell";
import { type PanelProps } from "../face";
import css from "./HandOverPanel.module.css";
import { MachineRuns } from "./MachineRuns";

/** Makes the files on the server and lists every hand-over of this route. */
export function HandOverPanel({ scene }: PanelProps) {
  const { handOvers, saved, state, inspected, route, ticket } = scene;
  const { renders, busy, asking, make } = handOvers;
  // Fingerprint of what is on the light table; null until it has been looked at.
  const here = inspected?.of === route ? inspected.found.fingerprint : null;
  const ended = renders.filter((r) => r.state === "done" || r.state === "failed");
  const shownHere = (render: RenderView) => render.revision === saved.revision && state === "saved";
  return (
    <>
      <Button
        onClick={() => void make()}
        loading={asking}
        disabled={busy !== null || state === "conflict"}
        fullWidth
      >
        Hand over files
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
      {ended.map((render, i) => (
        <HandOver key={render.id} render={render} newest={i === 0} here={shownHere(render) ? here : null} />
      ))}
      <MachineRuns scene={scene} />
      <KeptStrips ticket={ticket} />
    </>
  );
}

/** Test strips that were kept on the ticket, each as one bitmap for a scrap. */
function KeptStrips({ ticket: { id, number, routes } }: Pick<PanelProps["scene"], "ticket">) {
  const { data: strips = [] } = useStrips(id);
  const remove = useStripRemoval(id);
  if (strips.length === 0) return null;
  return (
    <div className={css.done}>
      <b>Test pieces</b>
      <ul>
        {strips.map(({ id: stripId, title, labels, routeId, revision, pictureUrl, createdAt }) => (
          <li key={stripId}>
            <a
              href={pictureUrl}
              download={`${number}-test-${stripId}.png`}
              title={`${routes.find((r) => r.id === routeId)?.name ?? "route"}, r${revision}, ${dayjs(createdAt).format("D MMM HH:mm")}: ${labels.join("; ")}`}
            >
              {title}
            </a>
            <button
              type="button"
              className={css.drop}
              aria-label={`Remove the test piece ${title}`}
              onClick={() => remove.mutate(stripId, { onError: (e) => tellFault("It was not removed", e) })}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

function HandOver({ render, newest, here }: { render: RenderView; newest: boolean; here: string | null }) {
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
      {here && (
        <p className={here === render.dotsSha256 ? css.same : css.other}>
          {here === render.dotsSha256
            ? "Same dots as on the light table"
            : "Not the dots on the light table: make the files again"}
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
const sizeText = (bytes: number): string =>
  bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

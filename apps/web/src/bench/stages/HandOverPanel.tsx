import { type RenderView, type RouteView } from "@hardline/contract";
import { Button, Progress } from "@mantine/core";
import dayjs from "dayjs";
import { type Kept } from "../RouteKeeper";
import { type HandOvers } from "../useHandOver";
import css from "./HandOverPanel.module.css";

interface Props {
  readonly handOvers: HandOvers;
  readonly saved: RouteView;
  readonly state: Kept["state"];
  /** Fingerprint of the dots on the light table; null until they have been looked at. */
  readonly dotsSha256: string | null;
}

/** Makes the files on the server and lists every hand-over of this route. */
export function HandOverPanel({
  handOvers: { renders, busy, asking, make },
  saved,
  state,
  dotsSha256,
}: Props) {
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
      {ended.map((render, i) => (
        <HandOver
          key={render.id}
          render={render}
          newest={i === 0}
          dotsSha256={shownHere(render) ? dotsSha256 : null}
        />
      ))}
    </>
  );
}

function HandOver({
  render,
  newest,
  dotsSha256,
}: {
  render: RenderView;
  newest: boolean;
  dotsSha256: string | null;
}) {
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
          {dotsSha256 === render.dotsSha256
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

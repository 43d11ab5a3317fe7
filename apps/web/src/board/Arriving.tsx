import { Button, Progress } from "@mantine/core";
import css from "./Arriving.module.css";
import { type Refused } from "./filesOf";
import { type Arriving as How } from "./useArrivals";

/** Files that are being taken in: how far they are, with a way to stop. */
export function Arriving({ how: { name, nth, of, doing, progress }, stop }: { how: How; stop: () => void }) {
  const share = (nth - 1 + (progress ?? 0)) / of;
  return (
    <div className={css.panel} role="status">
      <div className={css.words}>
        <b>
          Taking in {of > 1 && `${nth} of ${of}, `}
          {name}
        </b>
        <span>
          {doing}
          {progress !== null && `, ${Math.round(100 * progress)} %`}
        </span>
        <Progress value={100 * share} size="sm" radius={0} />
      </div>
      {nth < of && (
        <Button variant="default" onClick={stop}>
          Stop after this one
        </Button>
      )}
    </div>
  );
}

/** Files that were not taken in, each with the reason. */
export function NotTakenIn({ refused, forget }: { refused: readonly Refused[]; forget: () => void }) {
  return (
    <section className={css.panel} data-refused aria-label="Not taken in">
      <div className={css.words}>
        <b>
          {refused.length} {refused.length === 1 ? "file was" : "files were"} not taken in
        </b>
        <ul>
          {refused.map(({ name, why }, k) => (
            <li key={k}>
              <b>{name}</b> {why}
            </li>
          ))}
        </ul>
      </div>
      <Button variant="default" onClick={forget}>
        Seen
      </Button>
    </section>
  );
}

import { useState } from "react";
import css from "./Trouble.module.css";

/** As much of something asked of the server as is needed to tell what became of it. */
interface Asked {
  readonly error: Error | null;
  readonly isSuccess: boolean;
  readonly refetch: () => unknown;
}

interface Props {
  /** What cannot be shown or known, as a sentence begins: "The machines cannot be shown". */
  readonly title: string;
  readonly of: readonly Asked[];
}

/** Says why something is not there, for as long as it is not: also while it is being asked for again. */
export function Trouble({ title, of }: Props) {
  const [last, setLast] = useState<string | null>(null);
  const now = of.find((q) => q.error)?.error?.message ?? (of.every((q) => q.isSuccess) ? null : last);
  if (now !== last) setLast(now);
  if (now === null) return null;
  const again = () => {
    for (const asked of of) if (!asked.isSuccess || asked.error) asked.refetch();
  };
  return (
    <p className={css.trouble} role="alert">
      {title}: {now}{" "}
      <button type="button" onClick={again}>
        Try again
      </button>
    </p>
  );
}

import { type Check } from "@hardline/core/inspect/check";
import { type ReactNode } from "react";
import { TopBar } from "../TopBar";
import { LevelMark } from "../../shared/level";
import css from "./Bay.module.css";
import { Words } from "../../shared/Words";

interface Props {
  readonly docket: ReactNode;
  readonly children: ReactNode;
  readonly readings: ReactNode;
}

/** A place to work at: what is decided on the left, the work in the middle, what is measured on the right. */
export function Bay({ docket, children, readings }: Props) {
  return (
    <div className={css.page}>
      <TopBar />
      <main className={css.grid}>
        <aside className={css.paper} aria-label="Docket">
          {docket}
        </aside>
        <div className={css.middle}>{children}</div>
        <aside className={css.readings} aria-label="Readings">
          {readings}
        </aside>
      </main>
    </div>
  );
}

/** Measured figures, one a line. */
export function Figures({ of }: { of: readonly (readonly [label: string, value: string, big?: boolean])[] }) {
  return (
    <table className={css.figures}>
      <tbody>
        {of.map(([label, value, big]) => (
          <tr key={label} className={big ? css.big : undefined}>
            <th scope="row">{label}</th>
            <td>
              <Words of={value} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Checks of a sheet, gravest first as they are given. */
export function Checks({ of }: { of: readonly Check[] }) {
  return (
    <>
      {of.map((check) => (
        <div key={check.id} className={css.check}>
          <LevelMark level={check.level} />
          <span>
            <Words of={check.text} />
            <small>
              <Words of={check.detail} />
            </small>
          </span>
        </div>
      ))}
    </>
  );
}

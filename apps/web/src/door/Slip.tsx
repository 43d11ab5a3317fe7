import { Button } from "@mantine/core";
import { type ReactNode } from "react";
import { Mark } from "../shared/Mark";
import css from "./Door.module.css";

interface Props {
  readonly title: string;
  readonly words: ReactNode;
  readonly does: string;
  readonly act: () => void;
  readonly busy: boolean;
  readonly wrong: string | null;
  /** It lies over a page that stays as it is below. */
  readonly over?: boolean;
  readonly children: ReactNode;
}

/** The page before all others: who is there? */
export function Slip({ title, words, does, act, busy, wrong, over = false, children }: Props) {
  return (
    <div className={over ? css.over : css.page}>
      <header className={css.bar}>
        <Mark />
      </header>
      <main>
        <form
          className={css.slip}
          onSubmit={(e) => {
            e.preventDefault();
            act();
          }}
        >
          <h1>{title}</h1>
          <p>{words}</p>
          {children}
          {wrong && (
            <p className={css.wrong} role="alert">
              {wrong}
            </p>
          )}
          <Button type="submit" loading={busy}>
            {does}
          </Button>
        </form>
      </main>
    </div>
  );
}

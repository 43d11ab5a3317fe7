import { useDocumentTitle } from "@mantine/hooks";
import { Link, useLocation } from "react-router";
import room from "../shared/room/Room.module.css";
import { TopBar } from "./TopBar";

interface Props {
  /** What is not there, as a heading; an address that is none when left out. */
  readonly what?: string;
  readonly why?: string;
}

/** Something that an address names and that there is not. */
export function NotHere({ what, why }: Props) {
  const { pathname } = useLocation();
  useDocumentTitle("Not here, Hard Line");
  return (
    <div className={room.page}>
      <TopBar />
      <main className={room.main}>
        <h1>{what ?? "There is nothing at this address"}</h1>
        <p role="alert">
          {why ?? (
            <>
              No page is called <span className="mono">{pathname}</span>.
            </>
          )}
        </p>
        <p>
          <Link to="/">To the tickets</Link>
        </p>
      </main>
    </div>
  );
}

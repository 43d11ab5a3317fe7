import { Component, type ReactNode } from "react";
import room from "../shared/room/Room.module.css";
import { TopBar } from "./TopBar";

interface State {
  readonly fault: Error | null;
}

/** A page that cannot be loaded or drawn says so, and leaves the bar at the top to go elsewhere. */
export class PageFault extends Component<{ readonly children: ReactNode }, State> {
  override readonly state: State = { fault: null };

  static getDerivedStateFromError(fault: Error): State {
    return { fault };
  }

  override render(): ReactNode {
    const { fault } = this.state;
    if (!fault) return this.props.children;
    const isAway = /dynamically imported module|Failed to fetch|preload/i.test(fault.message);
    return (
      <div className={room.page}>
        <TopBar />
        <main className={room.main}>
          <h1>This page cannot be shown</h1>
          <p role="alert">
            {isAway ? "The server does not answer. Try again in a moment." : fault.message}{" "}
            <button type="button" onClick={() => location.reload()}>
              Try again
            </button>
          </p>
        </main>
      </div>
    );
  }
}

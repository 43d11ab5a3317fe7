import room from "../shared/room/Room.module.css";
import { TopBar } from "./TopBar";

/** While a page is being loaded. */
export const Waiting = () => (
  <div className={room.page} aria-busy>
    <TopBar />
    <main className={room.main} aria-label="Loading the page" />
  </div>
);

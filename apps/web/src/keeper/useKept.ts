import { notifications } from "@mantine/notifications";
import { useEffect, useState, useSyncExternalStore } from "react";
import { type Keeper, type Versioned } from "./Keeper";

/** A keeper for as long as the page is open: it saves when the connection is back, and holds on when the page goes. */
export function useKept<Value, View extends Versioned, K extends Keeper<Value, View>>(make: () => K) {
  const [keeper] = useState(make);
  useEffect(() => {
    const back = () => void keeper.flush();
    window.addEventListener("online", back);
    window.addEventListener("pagehide", keeper.putOnShelf);
    return () => {
      window.removeEventListener("online", back);
      window.removeEventListener("pagehide", keeper.putOnShelf);
      keeper.close();
    };
  }, [keeper]);
  const kept = useSyncExternalStore(keeper.subscribe, keeper.get);
  const { reason } = kept;
  useEffect(() => {
    if (reason) notifications.show({ id: "refused", color: "red", message: `Not saved. ${reason}` });
  }, [reason]);
  return { keeper, ...kept };
}

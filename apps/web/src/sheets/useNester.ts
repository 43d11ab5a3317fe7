import { wrap, type Remote } from "comlink";
import { useEffect, useState } from "react";
import { type Nester } from "./nestWorker";

/** The worker that arranges and measures, for as long as the page is open. */
export function useNester(): Remote<Nester> | null {
  const [nester, setNester] = useState<Remote<Nester> | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("./nestWorker.ts", import.meta.url), { type: "module" });
    const remote = wrap<Nester>(worker);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- a worker is made once the page is there, not before
    setNester(() => remote);
    return () => worker.terminate();
  }, []);
  return nester;
}

import { lazy, Suspense, useEffect, useRef } from "react";
import { Route, Routes, useLocation } from "react-router";
import { Board } from "./board/Board";
import { NotHere } from "./shell/NotHere";
import { PageFault } from "./shell/PageFault";
import { Waiting } from "./shell/Waiting";

/** Each page is loaded when it is opened, or before, while nothing else is to be done; the board is there at once. */
const PAGES = {
  bench: () => import("./bench/BenchPage"),
  sheets: () => import("./sheets/SheetsRoom"),
  sheet: () => import("./sheets/SheetPage"),
  machines: () => import("./machines/MachinesRoom"),
  run: () => import("./run/RunPage"),
  materials: () => import("./materials/MaterialsRoom"),
  batches: () => import("./batches/BatchesRoom"),
};
const BenchPage = lazy(() => PAGES.bench().then((m) => ({ default: m.BenchPage })));
const SheetsRoom = lazy(() => PAGES.sheets().then((m) => ({ default: m.SheetsRoom })));
const SheetPage = lazy(() => PAGES.sheet().then((m) => ({ default: m.SheetPage })));
const MachinesRoom = lazy(() => PAGES.machines().then((m) => ({ default: m.MachinesRoom })));
const RunPage = lazy(() => PAGES.run().then((m) => ({ default: m.RunPage })));
const MaterialsRoom = lazy(() => PAGES.materials().then((m) => ({ default: m.MaterialsRoom })));
const BatchesRoom = lazy(() => PAGES.batches().then((m) => ({ default: m.BatchesRoom })));

/** A board that is open so long, in milliseconds, rests: the bench is loaded, so that a ticket opens at once. */
const REST_MS = 1500;
/** So long after any page was opened nobody waits for it any more, and the other pages are loaded. */
const LONG_REST_MS = 8000;

/** Which page an address shows. */
export function Pages() {
  useAheadOfUse();
  const { pathname } = useLocation();
  useHeadingFocus(pathname);
  return (
    <PageFault key={pathname}>
      <Suspense fallback={<Waiting />}>
        <Routes>
          <Route path="/" element={<Board />} />
          <Route path="/sheets" element={<SheetsRoom />} />
          <Route path="/sheets/:sheetId" element={<SheetPage />} />
          <Route path="/machines" element={<MachinesRoom />} />
          <Route path="/runs/:runId" element={<RunPage />} />
          <Route path="/materials" element={<MaterialsRoom />} />
          <Route path="/batches" element={<BatchesRoom />} />
          <Route path="/tickets/:ticketId" element={<BenchPage />} />
          <Route path="/tickets/:ticketId/routes/:routeId" element={<BenchPage />} />
          <Route path="*" element={<NotHere />} />
        </Routes>
      </Suspense>
    </PageFault>
  );
}

/** How long a page may take to be there, in milliseconds, and still get the focus. */
const LATE_MS = 10000;

/** After another page was opened the focus is on its heading, where nothing else of it has it: not lost with what was pressed. */
function useHeadingFocus(pathname: string): void {
  const first = useRef(true);
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    const look = (): boolean => {
      const heading = document.querySelector<HTMLElement>("h1");
      if (!heading) return false;
      if (document.activeElement === document.body) {
        heading.tabIndex = -1;
        heading.focus({ preventScroll: true });
      }
      return true;
    };
    if (look()) return;
    const observer = new MutationObserver(() => look() && observer.disconnect());
    observer.observe(document.body, { childList: true, subtree: true });
    const timer = setTimeout(() => observer.disconnect(), LATE_MS);
    return () => {
      observer.disconnect();
      clearTimeout(timer);
    };
  }, [pathname]);
}

/** Loads other pages before they are wanted, never while the one that is open still comes: that would slow it down. */
function useAheadOfUse(): void {
  useEffect(() => {
    // One that cannot be loaded now is loaded when it is opened, and then says why it cannot.
    const load = (page: () => Promise<unknown>) => page().catch(() => undefined);
    const bench = setTimeout(() => void load(PAGES.bench), REST_MS);
    const others = setTimeout(async () => {
      for (const page of Object.values(PAGES)) await load(page);
    }, LONG_REST_MS);
    return () => {
      clearTimeout(bench);
      clearTimeout(others);
    };
  }, []);
}

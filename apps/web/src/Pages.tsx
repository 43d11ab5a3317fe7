import { lazy, Suspense, useEffect, useRef } from "react";
import { Route, Routes, useLocation } from "react-router";
import { Board } from "./board/Board";
import { NotHere } from "./shell/NotHere";
import { PageFault } from "./shell/PageFault";
import { Waiting } from "./shell/Waiting";

/** Each page is loaded when it is opened, or when the one that is open is at rest; the board is there at once. */
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

/** A page that is open rests when nothing was asked of it for so long, in milliseconds. */
const REST_MS = 1500;

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

/** Loads the other pages while the one that is open rests, the bench first: a ticket then opens at once. */
function useAheadOfUse(): void {
  useEffect(() => {
    const timer = setTimeout(async () => {
      // One that cannot be loaded now is loaded when it is opened, and then says why it cannot.
      for (const load of Object.values(PAGES)) await load().catch(() => undefined);
    }, REST_MS);
    return () => clearTimeout(timer);
  }, []);
}

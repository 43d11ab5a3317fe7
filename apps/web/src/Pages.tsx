import { Suspense, useEffect, useRef } from "react";
import { Route, Routes, useLocation } from "react-router";
import { Board } from "./board/Board";
import { NotHere } from "./shell/NotHere";
import { loaded } from "./shell/loaded";
import { PageFault } from "./shell/PageFault";
import { Waiting } from "./shell/Waiting";

/** Each page is loaded when it is opened, or before, while nothing else is to be done; the board is there at once. */
const bench = () => import("./bench/BenchPage");
const BenchPage = loaded(() => bench().then((m) => m.BenchPage));
const SheetsRoom = loaded(() => import("./sheets/SheetsRoom").then((m) => m.SheetsRoom));
const SheetPage = loaded(() => import("./sheets/SheetPage").then((m) => m.SheetPage));
const MachinesRoom = loaded(() => import("./machines/MachinesRoom").then((m) => m.MachinesRoom));
const RunPage = loaded(() => import("./run/RunPage").then((m) => m.RunPage));
const MaterialsRoom = loaded(() => import("./materials/MaterialsRoom").then((m) => m.MaterialsRoom));
const BatchesRoom = loaded(() => import("./batches/BatchesRoom").then((m) => m.BatchesRoom));
const CustomersRoom = loaded(() => import("./customers/CustomersRoom").then((m) => m.CustomersRoom));
const CustomerPage = loaded(() => import("./customers/CustomerPage").then((m) => m.CustomerPage));
const TodayRoom = loaded(() => import("./today/TodayRoom").then((m) => m.TodayRoom));
const PeopleRoom = loaded(() => import("./people/PeopleRoom").then((m) => m.PeopleRoom));
const Join = loaded(() => import("./door/Join").then((m) => m.Join));
const ALL = [
  ...[BenchPage, SheetsRoom, SheetPage, MachinesRoom, RunPage, MaterialsRoom, BatchesRoom],
  ...[CustomersRoom, CustomerPage, TodayRoom, PeopleRoom],
];

/** A board that is open so long, in milliseconds, rests: the bench is loaded, so that a ticket opens at once. */
const REST_MS = 1500;
/** So long after any page was opened nobody waits for it any more, and the other pages are loaded. */
const LONG_REST_MS = 8000;

/** Which page an address shows. */
export function Pages() {
  const { pathname } = useLocation();
  useAheadOfUse(pathname);
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
          <Route path="/customers" element={<CustomersRoom />} />
          <Route path="/customers/:customerId" element={<CustomerPage />} />
          <Route path="/today" element={<TodayRoom />} />
          <Route path="/people" element={<PeopleRoom />} />
          <Route path="/join/:code" element={<Join />} />
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

/** One that cannot be loaded now is loaded when it is opened, and then says why it cannot. */
const never = (): undefined => undefined;

/** Loads other pages before they are wanted, never while the one that is open still comes: that would slow it down. */
function useAheadOfUse(pathname: string): void {
  useEffect(() => {
    if (pathname !== "/") return;
    const timer = setTimeout(
      () =>
        void BenchPage.ahead()
          .then(bench)
          .then((m) => m.keepSpareWorker())
          .catch(never),
      REST_MS,
    );
    return () => clearTimeout(timer);
  }, [pathname]);
  useEffect(() => {
    const timer = setTimeout(async () => {
      for (const page of ALL) await page.ahead().catch(never);
    }, LONG_REST_MS);
    return () => clearTimeout(timer);
  }, []);
}

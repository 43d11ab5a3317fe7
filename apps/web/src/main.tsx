import "@fontsource-variable/archivo/wdth.css";
import "@fontsource/ibm-plex-mono/400.css";
import "@fontsource/ibm-plex-mono/500.css";
import "@mantine/core/styles.css";
import "@mantine/dates/styles.css";
import "@mantine/notifications/styles.css";
import "./tokens.css";
import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { BenchPage } from "./bench/BenchPage";
import { Board } from "./board/Board";
import { BatchesRoom } from "./batches/BatchesRoom";
import { MachinesRoom } from "./machines/MachinesRoom";
import { MaterialsRoom } from "./materials/MaterialsRoom";
import { RunPage } from "./run/RunPage";
import { SheetPage } from "./sheets/SheetPage";
import { SheetsRoom } from "./sheets/SheetsRoom";
import { theme } from "./theme";

const queries = new QueryClient({ defaultOptions: { queries: { staleTime: 5000, retry: 2 } } });

createRoot(document.getElementById("root")!).render(
  <MantineProvider theme={theme} forceColorScheme="light">
    <Notifications position="top-center" />
    <QueryClientProvider client={queries}>
      <BrowserRouter>
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
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  </MantineProvider>,
);

import "@fontsource-variable/archivo/wdth.css";
import "@fontsource/ibm-plex-mono/400.css";
import "@fontsource/ibm-plex-mono/500.css";
import "@mantine/core/styles.css";
import "@mantine/dates/styles.css";
import "@mantine/notifications/styles.css";
import "./tokens.css";
import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Door } from "./door/Door";
import { Pages } from "./Pages";
import { Queries } from "./Queries";
import { theme } from "./theme";

createRoot(document.getElementById("root")!).render(
  <MantineProvider theme={theme} forceColorScheme="light">
    <Notifications position="top-center" />
    <Queries>
      <BrowserRouter>
        <Door>
          <Pages />
        </Door>
      </BrowserRouter>
    </Queries>
  </MantineProvider>,
);

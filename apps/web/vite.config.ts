import react from "@vitejs/plugin-react";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const source = (path: string): string => fileURLToPath(new URL(`../../packages/${path}`, import.meta.url));

/** What writes a file may be wanted by a stage's own writers and by the page itself: each loads it when it needs it. */
const rollupOptions = {
  onwarn(warning: { code?: string }, warn: (warning: never) => void): void {
    if (warning.code !== "INEFFECTIVE_DYNAMIC_IMPORT") warn(warning as never);
  },
};

export default defineConfig({
  plugins: [react()],
  resolve: {
    alias: [
      { find: /^@hardline\/core\/(.*)$/, replacement: `${source("core/src")}/$1.ts` },
      {
        find: /^@hardline\/contract\/(constants|ticketFields)$/,
        replacement: `${source("contract/src")}/$1.ts`,
      },
    ],
  },
  worker: { format: "es", rollupOptions },
  build: { target: "es2022", chunkSizeWarningLimit: 4000, rollupOptions },
  server: { proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 4280}` } },
});

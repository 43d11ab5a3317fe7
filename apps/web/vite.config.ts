import react from "@vitejs/plugin-react";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const source = (path: string): string => fileURLToPath(new URL(`../../packages/${path}`, import.meta.url));

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
  worker: { format: "es" },
  build: { target: "es2022", chunkSizeWarningLimit: 4000 },
  server: { proxy: { "/api": `http://127.0.0.1:${process.env.PORT ?? 4280}` } },
});

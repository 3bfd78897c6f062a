import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // libraries change less often than screens: in a file of their own they stay in the browser's store
  build: {
    chunkSizeWarningLimit: 600, // kB as they lie on disk; a third of that goes over the air
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: "libraries", test: /node_modules/ }] } } },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
  test: { environment: "node", include: ["src/**/*.test.ts"] },
});

import type { NextConfig } from "next";

const config: NextConfig = {
  serverExternalPackages: ["sharp", "pg", "graphile-worker", "pino"],
  poweredByHeader: false,
  compress: false,
  devIndicators: false,
};

export default config;

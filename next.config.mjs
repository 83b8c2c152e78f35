/** @type {import("next").NextConfig} */
export default {
  serverExternalPackages: ["sharp", "pg", "graphile-worker", "pino"],
  poweredByHeader: false,
  compress: false,
  devIndicators: false,
};

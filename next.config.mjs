/** @type {import("next").NextConfig} */
export default {
  serverExternalPackages: ["sharp", "pg", "graphile-worker", "pino", "libraw-wasm", "libheif-js"],
  poweredByHeader: false,
  compress: false,
  devIndicators: false,
  typescript: { ignoreBuildErrors: true },
};

/** @type {import("next").NextConfig} */
export default {
  serverExternalPackages: ["sharp", "pg", "graphile-worker", "pino", "libraw-wasm", "libheif-js", "drizzle-orm", "zod", "piscina", "pdf-lib", "nodemailer", "postal-mime", "yazl", "yauzl", "saxes", "lru-cache", "jpeg-js", "pngjs", "smtp-server"],
  poweredByHeader: false,
  compress: false,
  devIndicators: false,
  typescript: { ignoreBuildErrors: true },
};

import type { NextConfig } from 'next'

const config: NextConfig = {
  serverExternalPackages: ['pg', 'pg-boss', 'sharp', '@tus/server', '@tus/file-store'],
  poweredByHeader: false,
  devIndicators: false,
  // Types and lint are checked by their own commands, before the build.
  typescript: { ignoreBuildErrors: true },
}

export default config

import type { NextConfig } from 'next'

/** Sentences come taken apart from the server (see src/messages): nobody needs to read them in a page. */
const TAKEN_APART = { 'use-intl/format-message': 'use-intl/format-message/format-only' }

// Each build is an edition of its own; what builds beside this process must call it the same.
process.env.YARN_STEP_EDITION ??= Date.now().toString(36)

const config: NextConfig = {
  env: { YARN_STEP_EDITION: process.env.YARN_STEP_EDITION },
  turbopack: { resolveAlias: TAKEN_APART },
  serverExternalPackages: ['pg', 'pg-boss', 'sharp', '@tus/server', '@tus/file-store'],
  poweredByHeader: false,
  devIndicators: false,
  // Types and lint are checked by their own commands, before the build.
  typescript: { ignoreBuildErrors: true },
}

export default config

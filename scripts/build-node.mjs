import { rm } from 'node:fs/promises'
import { build } from 'esbuild'

/**
 * Bundles what runs outside Next: the headless command, the job worker, small start-up steps, and the
 * AudioWorklet, which a browser loads as a plain script.
 */
const node = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  splitting: true,
  chunkNames: 'chunks/[hash]',
  logLevel: 'warning',
  // Native code, and packages that find their own files beside themselves, stay in node_modules.
  external: ['next', 'sharp', 'pg', 'pg-boss', 'drizzle-orm', 'puppeteer-core', 'koffi', 'esbuild', 'onnxruntime-web'],
  // What is said is said by every program of the server.
  inject: ['src/messages/onServer.ts'],
  alias: { 'use-intl/format-message': 'use-intl/format-message/format-only' },
  banner: {
    js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
  },
}

// Chunks are named by their content: those of earlier builds would pile up.
await rm('dist/chunks', { recursive: true, force: true })
await Promise.all([
  build({
    ...node,
    entryPoints: {
      'yarn-step': 'src/cli/main.ts',
      server: 'src/server/main.ts',
      worker: 'src/jobs/worker.ts',
      thread: 'src/jobs/thread.ts',
      prepare: 'src/jobs/prepare.ts',
      'load-demo': 'src/demo/load.ts',
      'make-demo': 'src/demo/makeAhead.ts',
      bench: 'src/bench/main.ts',
      faults: 'src/faults/main.ts',
    },
  }),
  build({
    entryPoints: ['src/workers/player.worklet.ts', 'src/workers/capture.worklet.ts'],
    bundle: true,
    format: 'iife',
    target: 'es2022',
    outdir: 'public/worklets',
    logLevel: 'warning',
  }),
  // What goes into packages for course sites.
  build({
    entryPoints: ['src/coursePage/player.ts'],
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2020',
    outdir: 'dist/course-page',
    logLevel: 'warning',
  }),
])

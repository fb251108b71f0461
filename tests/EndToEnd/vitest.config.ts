import { resolve } from 'node:path'
import { defineConfig } from 'vitest/config'

// Lives beside the other tests but uses the console's packages.
export default defineConfig({
  root: resolve(import.meta.dirname),
  test: {
    include: ['*.test.ts'],
    globalSetup: './postgres.mjs',
    fileParallelism: false,
    testTimeout: 60_000,
    // A page on a busy machine may need seconds for what is told live.
    expect: { poll: { timeout: 15_000 } },
  },
})

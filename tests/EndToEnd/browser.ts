import { chromium, type Browser } from 'playwright-core'

/** Debian's Chromium, quiet and with nothing remembered. */
export const launch = (): Promise<Browser> =>
  chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  })

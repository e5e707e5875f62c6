import { launch, type Browser } from 'puppeteer-core'

/** Debian's Chromium without a window, with a profile of its own and without asking any address by itself. */
export function launchBrowser(
  profile: string,
  options: { args?: string[]; defaultViewport?: { width: number; height: number }; protocolTimeout?: number } = {},
): Promise<Browser> {
  const args = [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    `--user-data-dir=${profile}`,
    ...(options.args ?? []),
  ]
  return launch({ executablePath: '/usr/bin/chromium', ...options, args })
}

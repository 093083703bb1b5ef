/** Headless Chromium for tests and screenshots. */
import { existsSync } from 'node:fs'
import puppeteer, { type Browser, type BrowserContext, type Page } from 'puppeteer-core'

const PLACES = [process.env['MARIONETTE_CHROMIUM'], '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome']

/** Path of a Chromium on this machine, or null. */
export const findChromium = (): string | null => PLACES.find((path) => path && existsSync(path)) ?? null

export async function launchBrowser(): Promise<Browser> {
  const executablePath = findChromium()
  if (!executablePath) throw new Error('No Chromium was found; install the chromium package or set MARIONETTE_CHROMIUM.')
  return puppeteer.launch({
    executablePath,
    headless: true,
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      // A machine without a GPU. An emulated one would do the same: the stage then draws on the processor as well, but every frame
      // of the page would go through the emulation, four to eight times as slow.
      '--disable-gpu',
      '--disable-gpu-rasterization',
      // The browser's own pages, which nobody sees here.
      '--disable-features=WebUIOmniboxPopup,WebUIOmniboxAimPopup,WebUIOmniboxFullPopup,PreloadTopChromeWebUI',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--force-color-profile=srgb',
      // A microphone that hums, and needs no leave.
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
    ],
  })
}

let shared: Promise<Browser> | undefined

/** A profile of its own in the one browser that all suites of a process share; downloads fall into a folder. */
export async function freshContext(downloads: string): Promise<BrowserContext> {
  shared ??= launchBrowser()
  return (await shared).createBrowserContext({ downloadBehavior: { policy: 'allow', downloadPath: downloads } })
}

export interface PageOptions {
  readonly width?: number
  readonly height?: number
  readonly theme?: 'daylight' | 'footlights'
  /** Device pixels for each CSS pixel. */
  readonly density?: number
}

/** Opens a page of a given size; errors of the page are collected. */
export async function openPage(
  browser: Browser | BrowserContext,
  { width = 1280, height = 800, theme = 'daylight', density = 1 }: PageOptions = {},
): Promise<{ page: Page; errors: string[] }> {
  const page = await browser.newPage()
  const errors: string[] = []
  // A page that holds on to unsaved work asks before it is left.
  page.on('dialog', (dialog) => void dialog.accept())
  page.on('pageerror', (e) => errors.push((e as Error).message))
  page.on('console', (m) => m.type() === 'error' && errors.push(m.text()))
  await page.setViewport({ width, height, deviceScaleFactor: density })
  await page.evaluateOnNewDocument((t) => localStorage.getItem('theme') ?? localStorage.setItem('theme', t), theme)
  return { page, errors }
}

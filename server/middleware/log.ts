/** One line for each request: time, method, path, status and duration. Nothing of what is sent or answered. */
import { mkdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import type { MiddlewareHandler } from 'hono'
import { pino, type Logger } from 'pino'

const LARGEST = 10 * 1024 * 1024

/** A log in the data folder, or none. What is larger than ten megabytes at the start is put aside once. */
export function openLog(folder: string, where: 'file' | 'stdout' | 'off'): Logger {
  if (where === 'off') return pino({ enabled: false })
  if (where === 'stdout') return pino()
  const file = join(folder, 'log', 'server.log')
  try {
    mkdirSync(join(folder, 'log'), { recursive: true })
    if ((statSync(file, { throwIfNoEntry: false })?.size ?? 0) > LARGEST) {
      rmSync(`${file}.1`, { force: true })
      renameSync(file, `${file}.1`)
    }
    const destination = pino.destination({ dest: file, sync: true })
    // A full disk must not end the server for want of a log.
    destination.on('error', () => undefined)
    return pino({ base: null, timestamp: pino.stdTimeFunctions.isoTime }, destination)
  } catch {
    return pino({ enabled: false })
  }
}

export function logRequests(log: Logger): MiddlewareHandler {
  return async (c, next) => {
    const start = performance.now()
    await next()
    log.info({ method: c.req.method, path: c.req.path, status: c.res.status, ms: Math.round(10 * (performance.now() - start)) / 10 })
  }
}

/** What went wrong and where, without what was being worked on: errors of the database carry the values of their query. */
export function logFailure(log: Logger, error: unknown, path: string | null = null): void {
  const { name, message, stack = '' } = error instanceof Error ? error : new Error(String(error))
  log.error({ path, error: name, message: message.slice(0, 200), at: stack.split('\n').slice(1, 8) })
}

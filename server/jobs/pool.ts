/** Workers for the heavy work of the server. */
import { MessageChannel, type MessagePort } from 'node:worker_threads'
import { Piscina } from 'piscina'
import { ApiError } from '../errors'
import { isRefusal, type Jobs } from './jobs'

/** Longest that work may take before its worker is ended, ms. A backup takes as long as its library is large. */
export interface Limits {
  readonly check: number
  readonly thumbnail: number
  readonly library: number
  /** Memory of a worker, MB. */
  readonly memory: number
}

export const LIMITS: Limits = { check: 4500, thumbnail: 8000, library: 60 * 60 * 1000, memory: 900 }

const TOO_HEAVY = 'That would take more time or memory than the server gives to one request; nothing was changed.'

/** Whether a worker was ended because it went beyond its limits. */
function isBeyondLimits(error: unknown): boolean {
  const { name, code } = error as { name?: string; code?: string }
  return name === 'AbortError' || name === 'TimeoutError' || code === 'ERR_WORKER_OUT_OF_MEMORY'
}

/** Longest that a worker may take to start and to come to a task, ms: a busy machine says nothing about the task. */
const LONGEST_WAIT = 60_000

/** A signal that ends a task some time after a worker has begun it, which the worker says through a port. */
function limitFromBegin(limit: number): { readonly begun: MessagePort; readonly signal: AbortSignal; readonly stop: () => void } {
  const { port1, port2 } = new MessageChannel()
  const controller = new AbortController()
  const end = (): void => controller.abort()
  let timer = setTimeout(end, LONGEST_WAIT + limit)
  port1.once('message', () => {
    clearTimeout(timer)
    timer = setTimeout(end, limit)
  })
  const stop = (): void => {
    clearTimeout(timer)
    port1.close()
  }
  return { begun: port2, signal: controller.signal, stop }
}

/** Starts two workers: one that checks and draws, one for whole libraries, so that neither waits for the other. */
export function workerJobs(limits: Limits = LIMITS): Jobs {
  const pool = (maxThreads: number): Piscina =>
    new Piscina({
      filename: new URL('./entry.mjs', import.meta.url).href,
      minThreads: 0,
      maxThreads,
      idleTimeout: 60_000,
      execArgv: [],
      resourceLimits: { maxOldGenerationSizeMb: limits.memory, stackSizeMb: 4 },
    })
  const short = pool(2)
  const long = pool(1)

  const ask = async <T>(workers: Piscina, name: string, argument: unknown, limit: number): Promise<T> => {
    let answer: unknown
    const clock = limitFromBegin(limit)
    try {
      answer = await workers.run({ argument, begun: clock.begun }, { name, signal: clock.signal, transferList: [clock.begun] })
    } catch (error) {
      if (isBeyondLimits(error)) throw new ApiError(422, 'request.heavy', TOO_HEAVY)
      throw error
    } finally {
      clock.stop()
    }
    if (isRefusal(answer)) {
      const { status, code, message, details } = answer.refused
      throw new ApiError(status as ConstructorParameters<typeof ApiError>[0], code, message, details)
    }
    return answer as T
  }
  return {
    checkBody: (bytes) => ask(short, 'checkBody', bytes, limits.check),
    check: (text) => ask(short, 'check', text, limits.check),
    copy: (text, copying) => ask(short, 'copy', { text, copying }, limits.check),
    thumbnail: (text, assets) => ask(short, 'thumbnail', { text, assets }, limits.thumbnail),
    backup: (request) => ask(long, 'backup', request, limits.library),
    prepareRestore: (request) => ask(long, 'prepareRestore', request, limits.library),
    commitRestore: (request) => ask(long, 'commitRestore', request, limits.library),
    close: async () => void (await Promise.all([short.destroy(), long.destroy()])),
  }
}

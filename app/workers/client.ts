/** Calls to the compute worker. Each call has a worker of its own, so that cancelling it is ending it. */
import { proxy, wrap } from 'comlink'
import type { Puppet, WeightField } from '@marionette/core/document/schema'
import type { ReadPuppet } from '@marionette/formats/read'
import type { ComputeApi } from './compute'
import type { TakenIn } from './library'

export class Cancelled extends Error {}

type Remote = ReturnType<typeof wrap<ComputeApi>>

async function inWorker<T>(work: (api: Remote) => Promise<T>, signal?: AbortSignal): Promise<T> {
  const worker = new Worker(new URL('./compute.ts', import.meta.url), { type: 'module' })
  try {
    return await new Promise<T>((resolve, reject) => {
      signal?.addEventListener('abort', () => reject(new Cancelled('Cancelled.')), { once: true })
      worker.addEventListener('error', (e) => reject(new Error(e.message || 'The worker failed.')))
      work(wrap<ComputeApi>(worker)).then(resolve, reject)
    })
  } finally {
    worker.terminate()
  }
}

export const readInWorker = (bytes: Uint8Array, fileName: string, signal?: AbortSignal): Promise<ReadPuppet> =>
  inWorker((api) => api.read(bytes, fileName), signal)

export const takeInWorker = (bytes: Uint8Array, fileName: string, signal?: AbortSignal): Promise<TakenIn> =>
  inWorker((api) => api.takeIn(bytes, fileName), signal)

export const weighInWorker = (
  puppet: Puppet,
  part: string,
  bones: readonly string[],
  progress: (done: number) => void,
  signal?: AbortSignal,
): Promise<WeightField> => inWorker((api) => api.weigh(puppet, part, [...bones], proxy(progress)), signal)

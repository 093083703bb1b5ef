/** Heavy work, off the main thread. */
import { expose } from 'comlink'
import { autoWeights } from '@marionette/core/artwork/autoWeights'
import type { Puppet, WeightField } from '@marionette/core/document/schema'
import { takeIn } from './library'
import { readPuppetFile, type ReadPuppet } from '@marionette/formats/read'

const api = {
  /** Reads a dropped file into a puppet. */
  read: (bytes: Uint8Array, fileName: string): ReadPuppet => readPuppetFile(bytes, fileName),
  /** Takes a dropped file into the library. */
  takeIn,
  /** Weighs a part for a blended bind. */
  weigh: (puppet: Puppet, part: string, bones: string[], progress: (done: number) => void): WeightField =>
    autoWeights(puppet, part, bones, progress),
}

export type ComputeApi = typeof api

expose(api)

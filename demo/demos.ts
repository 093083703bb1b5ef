/** The demo puppets by name. */
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Puppet } from '@marionette/core/document/schema'
import { buildMarlo } from './marlo/build'

const read = (path: string): string => readFileSync(fileURLToPath(new URL(path, import.meta.url)), 'utf8')

/** The drawing of a demo puppet. */
export const demoSvg = (): string => read('./marlo/marlo.svg')

export const DEMOS: Readonly<Record<string, () => Puppet>> = { marlo: () => buildMarlo(demoSvg()) }

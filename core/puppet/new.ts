/** Defaults: an empty puppet. */
import { z } from 'zod'
import type { PuppetId } from '../kernel/ids'
import { CURRENT_VERSION, type Puppet } from './schema'
import { RECORDS } from './records'
import { CALM } from '../springs/new'
import { newPart } from '../parts/new'

/** Id of the view that every puppet has. */
export const FRONT_VIEW = 'front'

/** A puppet with an empty root and one view; its size in px. */
export function newPuppet(id: PuppetId, name: string, size: { width: number; height: number } = { width: 1000, height: 1000 }): Puppet {
  const root = newPart(`${id}-root`, name)
  return {
    ...empty(),
    format: 'eager-marionette/puppet',
    version: CURRENT_VERSION,
    id,
    name,
    note: '',
    canvas: { ...size, background: null },
    guides: [],
    reference: null,
    shadow: null,
    stage: { ground: null, camera: null, scenery: [] },
    wind: CALM,
    naming: 'character-side',
    views: [{ id: FRONT_VIEW, name: 'Front' }],
    view: FRONT_VIEW,
    parts: { [root.id]: root },
    root: root.id,
    skeleton: [],
    pose: {},
  }
}

/** Nothing of anything: lists and records of all capabilities, empty. */
const empty = (): Pick<Puppet, keyof typeof RECORDS> =>
  Object.fromEntries(Object.entries(RECORDS).map(([field, schema]) => [field, schema instanceof z.ZodArray ? [] : {}])) as unknown as Pick<
    Puppet,
    keyof typeof RECORDS
  >

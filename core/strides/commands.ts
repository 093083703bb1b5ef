/** Commands on strides. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { StrideId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { Stride } from './records'

/** A stride. Throws EditError where there is none. */
export function strideOf({ strides }: Pick<Puppet, 'strides'>, id: string): Stride {
  const found = strides.find((stride) => stride.id === id)
  if (!found) throw new EditError(`There is no stride "${id}" in this puppet.`)
  return found
}

/** Throws where something is named that the puppet does not have, or its ground goes back. */
function check(puppet: Puppet, { legs, swings, hips, chest, head, ways, ground }: Partial<Stride>): void {
  const named = [
    ...(legs ?? []).flatMap(({ bones, foot, toe }) => [...bones, foot, toe]),
    ...(swings ?? []).flatMap(({ bones }) => bones),
    ...[hips, chest, head],
  ]
  const missing = named.find((id) => id !== null && id !== undefined && !puppet.bones[id])
  if (missing) throw new EditError(`There is no bone "${missing}" in this puppet.`)
  const walking = (legs ?? []).flatMap(({ bones, foot, toe }) => [...bones, ...[foot, toe].filter((id) => id !== null)])
  if (new Set(walking).size < walking.length) throw new EditError('A bone is in a leg once.')
  const unknown = Object.keys(ways ?? {}).find((view) => !puppet.views.some(({ id }) => id === view))
  if (unknown !== undefined) throw new EditError(`There is no view "${unknown}" in this puppet.`)
  if (ground?.some(({ x }, k) => k > 0 && x < (ground[k - 1]?.x ?? x))) throw new EditError('A ground goes from the left to the right.')
}

/** Adds legs that walk. */
export const addStride = command('stride.add', 'Add stride', z.object({ stride: Stride }), (puppet, { stride }) => {
  if (puppet.strides.some(({ id }) => id === stride.id)) throw new EditError(`There is a stride "${stride.id}" already.`)
  check(puppet, stride)
  puppet.strides.push(stride)
})

/** Changes how legs walk, and which. */
export const setStride = command(
  'stride.set',
  'Change stride',
  z.object({ id: StrideId, ...Stride.omit({ id: true }).partial().shape }),
  (puppet, { id, ...given }) => {
    check(puppet, given as Partial<Stride>)
    Object.assign(strideOf(puppet, id), Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)))
  },
)

/** Takes a stride away; the bones stay. */
export const deleteStride = command('stride.delete', 'Remove stride', z.object({ id: StrideId }), (puppet, { id }) => {
  puppet.strides.splice(puppet.strides.indexOf(strideOf(puppet, id)), 1)
})

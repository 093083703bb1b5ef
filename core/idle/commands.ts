/** Commands on idle life. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { IdleId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { Idle } from './records'

/** What a puppet does while it does nothing. Throws EditError where there is none. */
export function idleOf({ idles }: Pick<Puppet, 'idles'>, id: string): Idle {
  const found = idles.find((idle) => idle.id === id)
  if (!found) throw new EditError(`There is no idle life "${id}" in this puppet.`)
  return found
}

function checkBones(puppet: Puppet, { breath }: Partial<Idle>): void {
  const named = [breath?.chest, breath?.belly, ...(breath?.shoulders ?? [])]
  const missing = named.find((id) => id !== null && id !== undefined && !puppet.bones[id])
  if (missing) throw new EditError(`There is no bone "${missing}" in this puppet.`)
}

/** Adds idle life. */
export const addIdle = command('idle.add', 'Add idle life', z.object({ idle: Idle }), (puppet, { idle }) => {
  if (puppet.idles.some(({ id }) => id === idle.id)) throw new EditError(`There is idle life "${idle.id}" already.`)
  checkBones(puppet, idle)
  puppet.idles.push(idle)
})

/** Changes how a puppet breathes, shifts its weight, glances and blinks. */
export const setIdle = command(
  'idle.set',
  'Change idle life',
  z.object({ id: IdleId, ...Idle.omit({ id: true }).partial().shape }),
  (puppet, { id, ...given }) => {
    checkBones(puppet, given as Partial<Idle>)
    Object.assign(idleOf(puppet, id), Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)))
  },
)

/** Takes idle life away. */
export const deleteIdle = command('idle.delete', 'Remove idle life', z.object({ id: IdleId }), (puppet, { id }) => {
  puppet.idles.splice(puppet.idles.indexOf(idleOf(puppet, id)), 1)
})

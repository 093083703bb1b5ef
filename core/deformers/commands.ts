/** Commands on deformers: the stack of a part, and forms of cages that are kept. */
import { z } from 'zod'
import { count } from '../kernel/numbers'
import { DeformerId, PartId } from '../kernel/ids'
import { CagePreset, Deformer, handlesOf } from './records'
import type { Part, Puppet } from '../puppet/schema'
import { isWithinPart } from '../parts/tree'
import { partOf } from '../parts/lookup'
import { command, type ChannelLookup } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { boneOf } from '../bones/lookup'
import { clampTo } from '../kernel/channel'
import { stackedIn } from './stack'
import { addressesOfDeformer } from './channels'
import { kindOfDeformer } from './kinds'

function deformerAt(part: Part, id: string): number {
  const at = part.deformers.findIndex((d) => d.id === id)
  if (at < 0) throw new EditError(`"${part.name}" has no deformer "${id}".`)
  return at
}

function checkDeformer(puppet: Puppet, d: Deformer): void {
  if (d.bone !== null) boneOf(puppet, d.bone)
  for (const part of d.only ?? []) partOf(puppet, part)
  const handles = handlesOf(d)
  if (new Set(handles).size < handles.length) throw new EditError('A handle is listed twice.')
  const [problem] = kindOfDeformer(d).problems?.(d, d.name) ?? []
  if (problem) throw new EditError(`"${d.name}" ${problem.message}.`)
}

/** Adds a deformer to a part, at the end of its stack or at an index. Refused where an id of it is taken or it does not fit the part. */
export const addDeformer = command(
  'deformer.add',
  'Add deformer',
  z.object({ part: PartId, deformer: Deformer, index: count.optional() }),
  (puppet, { part, deformer, index }) => {
    const stack = partOf(puppet, part).deformers
    const { deformers, handles } = stackedIn(puppet)
    const taken = [deformer.id, ...handlesOf(deformer)].find((id) => deformers.has(id) || handles.has(id))
    if (taken !== undefined) throw new EditError(`There is already a deformer or handle "${taken}".`)
    checkDeformer(puppet, deformer)
    const outside = deformer.only?.find((id) => !isWithinPart(puppet, id, part))
    if (outside !== undefined) throw new EditError(`"${partOf(puppet, outside).name}" is not in the part that is deformed.`)
    stack.splice(Math.min(index ?? stack.length, stack.length), 0, deformer)
  },
)

/** Replaces a deformer by another form of it; what its handles were posed by stays where they stay. */
export const setDeformer = command(
  'deformer.set',
  'Change deformer',
  z.object({ part: PartId, deformer: Deformer }),
  (puppet, { part, deformer }, { channelOf }) => {
    const owner = partOf(puppet, part)
    const at = deformerAt(owner, deformer.id)
    const before = addressesOfDeformer(owner.deformers[at]!)
    checkDeformer(puppet, deformer)
    owner.deformers[at] = deformer
    keepPose(puppet, before, channelOf)
  },
)

/** Channels of the pose that nothing answers to any more are dropped, what has come to rest is not kept. */
function keepPose(puppet: Puppet, addresses: readonly string[], channelOf: ChannelLookup): void {
  for (const address of addresses) {
    const value = puppet.pose[address]
    if (value === undefined) continue
    const channel = channelOf(puppet, address)
    const clamped = channel && clampTo(channel, value)
    if (clamped === null || clamped === channel!.rest) delete puppet.pose[address]
    else puppet.pose[address] = clamped
  }
}

/** Deletes a deformer of a part. */
export const deleteDeformer = command(
  'deformer.delete',
  'Delete deformer',
  z.object({ part: PartId, deformer: DeformerId }),
  (puppet, { part, deformer }) => {
    const owner = partOf(puppet, part)
    owner.deformers.splice(deformerAt(owner, deformer), 1)
  },
)

/** Moves a deformer within its stack. */
export const orderDeformer = command(
  'deformer.order',
  'Reorder deformers',
  z.object({ part: PartId, deformer: DeformerId, index: count }),
  (puppet, { part, deformer, index }) => {
    const { deformers } = partOf(puppet, part)
    const [moved] = deformers.splice(deformerAt(partOf(puppet, part), deformer), 1)
    deformers.splice(Math.min(index, deformers.length), 0, moved!)
  },
)

/** Keeps the form of a cage to be used again; one of the same name is replaced. */
export const savePreset = command('preset.save', 'Keep cage form', z.object({ preset: CagePreset }), (puppet, { preset }) => {
  const at = puppet.presets.findIndex((p) => p.name === preset.name)
  if (at < 0) puppet.presets.push(preset)
  else puppet.presets[at] = preset
})

/** Deletes a form that was kept for cages. Refused where there is none of this name. */
export const deletePreset = command('preset.delete', 'Forget cage form', z.object({ name: z.string() }), (puppet, { name }) => {
  const at = puppet.presets.findIndex((p) => p.name === name)
  if (at < 0) throw new EditError(`No form is called "${name}".`)
  puppet.presets.splice(at, 1)
})

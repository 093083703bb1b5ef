/** Commands on deformers: the stack of a part, and forms of cages that are kept. */
import { z } from 'zod'
import { count } from '../document/basics'
import { addressesOfDeformer, channelOf, clampTo, deformersInViews, stackedIn } from '../document/channels'
import { DeformerId, PartId } from '../document/ids'
import { CagePreset, Deformer, handlesOf, type Part, type Puppet } from '../document/schema'
import { isWithinPart } from '../document/tree'
import { command, EditError } from './command'
import { boneOf, partOf } from './lookup'

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
  if (d.kind !== 'pins') return
  const n = d.vertices.length / 2
  if (n < 3 || d.triangles.length === 0) throw new EditError('The mesh of the pins is empty.')
  if (d.triangles.some((v) => v >= n) || d.stiffness.length !== n) throw new EditError('The mesh of the pins does not hold together.')
}

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
  (puppet, { part, deformer }) => {
    const owner = partOf(puppet, part)
    const at = deformerAt(owner, deformer.id)
    const before = addressesOfDeformer(owner.deformers[at]!)
    checkDeformer(puppet, deformer)
    owner.deformers[at] = deformer
    keepPose(puppet, before)
  },
)

/** Channels of the pose that nothing answers to any more are dropped, what has come to rest is not kept. */
function keepPose(puppet: Puppet, addresses: readonly string[]): void {
  for (const address of addresses) {
    const value = puppet.pose[address]
    if (value === undefined) continue
    const channel = channelOf(puppet, address)
    const clamped = channel && clampTo(channel, value)
    if (clamped === null || clamped === channel!.rest) delete puppet.pose[address]
    else puppet.pose[address] = clamped
  }
}

export const deleteDeformer = command(
  'deformer.delete',
  'Delete deformer',
  z.object({ part: PartId, deformer: DeformerId }),
  (puppet, { part, deformer }) => {
    const owner = partOf(puppet, part)
    const [gone] = owner.deformers.splice(deformerAt(owner, deformer), 1)
    keepPose(puppet, addressesOfDeformer(gone!))
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

export const deletePreset = command('preset.delete', 'Forget cage form', z.object({ name: z.string() }), (puppet, { name }) => {
  const at = puppet.presets.findIndex((p) => p.name === name)
  if (at < 0) throw new EditError(`No form is called "${name}".`)
  puppet.presets.splice(at, 1)
})

/** Deformers that went along with bones that are gone go along with their heir. */
export function forgetBonesInDeformers(puppet: Puppet, gone: ReadonlySet<string>, heir: string | null): void {
  for (const d of Object.values(puppet.parts).flatMap(deformersInViews)) if (d.bone !== null && gone.has(d.bone)) d.bone = heir
}

/** Deformers that acted on parts that are gone act on the others; one that acted on nothing else goes with them. */
export function forgetPartsInDeformers(puppet: Puppet, owner: Part, gone: ReadonlySet<string>): void {
  const lost: Deformer[] = []
  for (const stack of [owner, ...Object.values(owner.inViews)]) {
    if (!stack.deformers?.some((d) => d.only?.some((p) => gone.has(p)))) continue
    for (const d of stack.deformers) if (d.only) d.only = d.only.filter((p) => !gone.has(p))
    lost.push(...stack.deformers.filter((d) => d.only?.length === 0))
    stack.deformers = stack.deformers.filter((d) => d.only?.length !== 0)
  }
  keepPose(puppet, lost.flatMap(addressesOfDeformer))
}

/** Names of bones and parts that copies of deformers go by. */
export interface Renamed {
  readonly bone: (id: string) => string
  readonly part: (id: string) => string
}

/** The same deformers under other ids. */
export function deformersUnder(prefix: string, deformers: readonly Deformer[], { bone, part }: Renamed): Deformer[] {
  return deformers.map((source, i) => {
    const id = `${prefix}-d${i + 1}`
    const along = source.bone === null ? null : bone(source.bone)
    const d = { ...source, only: source.only && source.only.map(part) }
    if (d.kind === 'cage') return { ...d, id, bone: along }
    if (d.kind === 'bend') return { ...d, id, bone: along, points: d.points.map((p, k) => ({ ...p, id: `${id}.${k + 1}` })) }
    return { ...d, id, bone: along, pins: d.pins.map((p, k) => ({ ...p, id: `${id}.${k + 1}` })) }
  })
}

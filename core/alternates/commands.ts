/** Commands on swaps, their alternates and flipbooks. */
import { z } from 'zod'
import { FlipbookId, PartId } from '../kernel/ids'
import { Flipbook, Swap } from './records'
import type { Part, Puppet } from '../puppet/schema'
import { partOf } from '../parts/lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'

/** The alternates of a swap, bottom to top. */
export const alternatesOf = ({ parts }: Pick<Puppet, 'parts'>, swap: string): Part[] =>
  (parts[swap]?.children ?? []).map((id) => parts[id]!)

function swapOf(puppet: Puppet, id: string): Part & { swap: Swap } {
  const part = partOf(puppet, id)
  if (!part.swap) throw new EditError(`"${part.name}" has no alternates.`)
  return part as Part & { swap: Swap }
}

/** Makes a group a swap: one of what is in it shows. The topmost shows at first. */
export const makeSwap = command('swap.make', 'Make alternates', z.object({ group: PartId }), (puppet, { group }) => {
  const part = partOf(puppet, group)
  if (part.swap) throw new EditError(`"${part.name}" has alternates already.`)
  if (group === puppet.root) throw new EditError('The topmost part cannot have alternates: everything hangs from it.')
  if (part.content.kind !== 'group' || part.children.length === 0)
    throw new EditError(`"${part.name}" has nothing in it to choose from; alternates are made from a group.`)
  part.children.forEach((id, at) => (puppet.parts[id]!.alternate = at + 1))
  for (const id of part.children) puppet.parts[id]!.visible = true
  part.swap = { initial: part.children.length, morph: { how: 'morph', seconds: 0.08, eases: true }, sets: [], matches: [] }
})

/** Makes a swap a plain group again; what is not its first alternate is hidden. */
export const unmakeSwap = command('swap.unmake', 'Make plain group', z.object({ swap: PartId }), (puppet, { swap }) => {
  const part = swapOf(puppet, swap)
  for (const alternate of alternatesOf(puppet, swap)) alternate.visible = alternate.alternate === part.swap.initial
  partOf(puppet, swap).swap = null
})

/** Sets how a part shows its alternates. Refused where it names one that is not there. */
export const setSwap = command('swap.set', 'Change alternates', z.object({ part: PartId, swap: Swap }), (puppet, { part, swap }) => {
  const own = swapOf(puppet, part)
  const known = new Set([0, ...alternatesOf(puppet, part).map((a) => a.alternate)])
  const named = [swap.initial, ...swap.sets.flatMap((s) => Object.values(s.sounds))]
  if (named.some((n) => !known.has(n))) throw new EditError(`"${own.name}" has no such alternate.`)
  own.swap = swap
})

/** Adds a flipbook, or replaces the one with its id. Refused where its channel or an alternate of it is not there. */
export const setFlipbook = command(
  'flipbook.set',
  'Change flipbook',
  z.object({ flipbook: Flipbook }),
  (puppet, { flipbook }, { channelOf }) => {
    const channel = channelOf(puppet, flipbook.channel)
    if (!channel) throw new EditError(`“${flipbook.name}” would turn the pages of what is not there.`)
    if (channel.field === 'alternate') {
      const known = new Set([0, ...alternatesOf(puppet, channel.id).map((a) => a.alternate)])
      if (flipbook.pictures.some((n) => !known.has(n))) throw new EditError(`“${flipbook.name}” shows an alternate that is not there.`)
    }
    const at = puppet.flipbooks.findIndex((f) => f.id === flipbook.id)
    if (at < 0) puppet.flipbooks.push(flipbook)
    else puppet.flipbooks[at] = flipbook
  },
)

/** Deletes a flipbook. Refused where there is none with this id. */
export const deleteFlipbook = command('flipbook.delete', 'Delete flipbook', z.object({ flipbook: FlipbookId }), (puppet, { flipbook }) => {
  const at = puppet.flipbooks.findIndex((f) => f.id === flipbook)
  if (at < 0) throw new EditError(`There is no flipbook "${flipbook}" in this puppet.`)
  puppet.flipbooks.splice(at, 1)
})

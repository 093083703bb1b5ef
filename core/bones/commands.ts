/** Commands on bones: drawing, hanging, moving at rest, limits and colours. */
import { z } from 'zod'
import { count, Name, Vec } from '../kernel/numbers'
import { clampTo } from '../kernel/channel'
import { boneChannel } from './channels'
import { BoneId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { insertAt, removeFrom } from '../parts/lookup'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newBone } from './new'
import { CHAIN_COLOURS, Limits, type Bone } from './records'
import { bonesInOrder, isWithinBone } from './tree'
import { boneOf } from './lookup'
import { nth, sure } from '../kernel/sure'

/** The list in which a bone stands: its parent's children, or the skeleton's roots. */
export const siblings = (puppet: Puppet, parent: string | null): string[] =>
  parent === null ? puppet.skeleton : boneOf(puppet, parent).children

const SHORTEST = 1

/** Throws an EditError where a bone would be shorter than one px. */
export function checkLength(start: Vec, end: Vec): void {
  if (Math.hypot(end.x - start.x, end.y - start.y) < SHORTEST) throw new EditError('A bone needs a length of at least one pixel.')
}

/** The colour of a new bone: its parent's where it goes on with the chain, else the least used. */
export function chainColour(puppet: Puppet, parent: Bone | null): number {
  if (parent && parent.children.length === 0) return parent.colour
  const used = new Array<number>(CHAIN_COLOURS).fill(0)
  for (const { colour } of Object.values(puppet.bones)) used[colour - 1] = nth(used, colour - 1) + 1
  return used.indexOf(Math.min(...used)) + 1
}

/** Adds a bone. Refused where its id is taken, its parent is not there, or it has no length. */
export const addBone = command(
  'bone.add',
  'Draw bone',
  z.object({
    id: BoneId,
    name: Name,
    parent: BoneId.nullable(),
    start: Vec,
    end: Vec,
    colour: z.number().int().min(1).max(CHAIN_COLOURS).optional(),
  }),
  (puppet, { id, name, parent, start, end, colour }) => {
    if (puppet.bones[id]) throw new EditError(`There is already a bone "${id}".`)
    checkLength(start, end)
    const bone = newBone(id, name, start, end)
    bone.parent = parent
    bone.colour = colour ?? chainColour(puppet, parent === null ? null : boneOf(puppet, parent))
    siblings(puppet, parent).push(id)
    puppet.bones[id] = bone
  },
)

/** Renames a bone. */
export const renameBone = command('bone.rename', 'Rename bone', z.object({ bone: BoneId, name: Name }), (puppet, { bone, name }) => {
  boneOf(puppet, bone).name = name
})

/** Hangs a bone from another one (or from none); it stays where it is on the canvas. */
export const hangBone = command(
  'bone.hang',
  'Change parent bone',
  z.object({ bone: BoneId, parent: BoneId.nullable(), index: count.optional() }),
  (puppet, { bone, parent, index }) => {
    const moved = boneOf(puppet, bone)
    if (parent !== null && isWithinBone(puppet, boneOf(puppet, parent).id, bone)) {
      throw new EditError(`"${moved.name}" cannot hang from a bone that hangs from it.`)
    }
    removeFrom(siblings(puppet, moved.parent), bone)
    const list = siblings(puppet, parent)
    insertAt(list, bone, index ?? list.length)
    moved.parent = parent
  },
)

/** Takes a bone away. Its children go with it or move up to its parent. */
export const deleteBone = command(
  'bone.delete',
  'Delete bone',
  z.object({ bone: BoneId, withChildren: z.boolean() }),
  (puppet, { bone, withChildren }) => {
    const gone = boneOf(puppet, bone)
    const list = siblings(puppet, gone.parent)
    const heir = gone.parent
    const removed = withChildren ? bonesInOrder(puppet, [bone]).map((b) => b.id) : [bone]
    const orphans = withChildren ? [] : [...gone.children]
    list.splice(list.indexOf(bone), 1, ...orphans)
    for (const orphan of orphans) boneOf(puppet, orphan).parent = heir
    for (const id of removed) delete puppet.bones[id]
  },
)

/** Moves the ends of bones at rest, each to where it is told; `dragBoneEnd` tells what else goes along. */
export const setBoneEnds = command(
  'bone.ends',
  'Move bone at rest',
  z.object({ bones: z.array(z.object({ bone: BoneId, start: Vec, end: Vec })).min(1) }),
  (puppet, { bones }) => {
    for (const { bone, start, end } of bones) {
      checkLength(start, end)
      const b = boneOf(puppet, bone)
      b.start = start
      b.end = end
    }
  },
)

/** Gives bones a colour. */
export const colourChain = command(
  'bone.colour',
  'Colour chain',
  z.object({ bones: z.array(BoneId).min(1), colour: z.number().int().min(1).max(CHAIN_COLOURS) }),
  (puppet, { bones, colour }) => {
    for (const bone of bones) boneOf(puppet, bone).colour = colour
  },
)

/** Sets the limits of a bone's angle; a pose outside them is brought inside. */
export const setLimits = command(
  'bone.limits',
  'Set limits',
  z.object({ bone: BoneId, limits: Limits }),
  (puppet, { bone, limits }, { channelOf }) => {
    boneOf(puppet, bone).limits = limits
    const address = boneChannel(bone, 'angle')
    const posed = puppet.pose[address]
    if (posed !== undefined) puppet.pose[address] = clampTo(sure(channelOf(puppet, address)), posed)
  },
)

/** Whether two ends of bones stand on one spot, px. */
export const near = (a: Vec, b: Vec): boolean => Math.hypot(a.x - b.x, a.y - b.y) < 0.5

/**
 * Where the ends of a bone and its neighbours go when one end is dragged: the arguments of `setBoneEnds`.
 * Children that start on a moved end follow it whole; a parent whose end stood on a moved start is stretched to it.
 */
export function dragBoneEnd(
  puppet: Puppet,
  bone: string,
  which: 'start' | 'end' | 'both',
  to: Vec,
): { bones: { bone: string; start: Vec; end: Vec }[] } {
  const b = boneOf(puppet, bone)
  const grabbed = which === 'end' ? b.end : b.start
  const by = { x: to.x - grabbed.x, y: to.y - grabbed.y }
  const shift = (v: Vec): Vec => ({ x: v.x + by.x, y: v.y + by.y })
  const out = [{ bone, start: which === 'end' ? b.start : shift(b.start), end: which === 'start' ? b.end : shift(b.end) }]
  if (which !== 'end') {
    const parent = b.parent === null ? null : boneOf(puppet, b.parent)
    if (parent && near(parent.end, b.start)) out.push({ bone: parent.id, start: parent.start, end: shift(parent.end) })
  }
  if (which === 'both') {
    for (const child of bonesInOrder(puppet, b.children)) out.push({ bone: child.id, start: shift(child.start), end: shift(child.end) })
  } else if (which === 'end') {
    for (const child of b.children.map((id) => boneOf(puppet, id))) {
      if (near(child.start, b.end)) out.push({ bone: child.id, start: shift(child.start), end: child.end })
    }
  }
  return { bones: out }
}

/** The chain that a bone belongs to: up while each is an only child of the same colour, and down likewise. */
export function chainOf(puppet: Puppet, bone: string): string[] {
  let top = boneOf(puppet, bone)
  for (let p = top.parent; p !== null; p = top.parent) {
    const parent = boneOf(puppet, p)
    if (parent.colour !== top.colour) break
    top = parent
  }
  return bonesInOrder(puppet, [top.id])
    .filter((b) => b.colour === top.colour)
    .map((b) => b.id)
}

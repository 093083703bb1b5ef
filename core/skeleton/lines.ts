/** Commands that set many bones at once: aligned, spread evenly, straightened, put in between, locked. */
import { z } from 'zod'
import { finite, size, Name, Vec } from '../kernel/numbers'
import { BoneId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { chainColour, checkLength, near, siblings } from '../bones/commands'
import { threadChains } from '../constraints/chains'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newBone } from '../bones/new'
import { Bone, CHAIN_COLOURS, Limits } from '../bones/records'
import { boneChannel } from '../bones/channels'
import { bonesInOrder } from '../bones/tree'
import { boneOf } from '../bones/lookup'
import { nth } from '../kernel/sure'

/** Moves the start of a bone at rest; a parent that ended there goes along, and so does a bone's own branch. */
function moveStart(puppet: Puppet, bone: Bone, to: Vec): void {
  const by = { x: to.x - bone.start.x, y: to.y - bone.start.y }
  const parent = bone.parent === null ? null : boneOf(puppet, bone.parent)
  if (parent && near(parent.end, bone.start)) parent.end = { ...to }
  moveBranch(puppet, bone, by)
}

/** Shifts a bone at rest with all that hangs from it. */
function moveBranch(puppet: Puppet, bone: Bone, by: Vec): void {
  for (const b of bonesInOrder(puppet, [bone.id])) {
    b.start = { x: b.start.x + by.x, y: b.start.y + by.y }
    b.end = { x: b.end.x + by.x, y: b.end.y + by.y }
  }
}

function checkAll(puppet: Puppet): void {
  for (const b of Object.values(puppet.bones)) checkLength(b.start, b.end)
}

/** Brings the starts of bones to one height or one upright line: the mean of them. */
export const alignBones = command(
  'bone.align',
  'Align bones',
  z.object({ bones: z.array(BoneId).min(2), axis: z.enum(['x', 'y']) }),
  (puppet, { bones, axis }) => {
    const moved = bones.map((id) => boneOf(puppet, id))
    const mean = moved.reduce((sum, b) => sum + b.start[axis], 0) / moved.length
    for (const b of moved) moveStart(puppet, b, { ...b.start, [axis]: mean })
    checkAll(puppet)
  },
)

/** Spreads the starts of bones evenly between the outermost two. */
export const distributeBones = command(
  'bone.distribute',
  'Distribute bones',
  z.object({ bones: z.array(BoneId).min(3), axis: z.enum(['x', 'y']) }),
  (puppet, { bones, axis }) => {
    const sorted = bones.map((id) => boneOf(puppet, id)).sort((a, b) => a.start[axis] - b.start[axis])
    const [from, to] = [nth(sorted, 0).start[axis], nth(sorted, -1).start[axis]]
    sorted.forEach((b, i) => moveStart(puppet, b, { ...b.start, [axis]: from + ((to - from) * i) / (sorted.length - 1) }))
    checkAll(puppet)
  },
)

/** Chains that some bones form: each begins with a bone whose parent is not among them. */
function chainsAmong(puppet: Puppet, bones: readonly string[]): Bone[][] {
  const open = new Set(bones)
  return bonesInOrder(puppet)
    .filter((b) => open.has(b.id) && !(b.parent !== null && open.has(b.parent)))
    .map((first) => {
      const chain = [first]
      for (let b = first; ;) {
        const next: string | undefined = b.children.find((c) => open.has(c))
        if (next === undefined) return chain
        chain.push((b = boneOf(puppet, next)))
      }
    })
}

/** Lays the bones of each chain on the line from its start to its end; each keeps its length's share of it. */
export const straightenBones = command(
  'bone.straighten',
  'Straighten chain',
  z.object({ bones: z.array(BoneId).min(2) }),
  (puppet, { bones }) => {
    for (const id of bones) boneOf(puppet, id)
    for (const chain of chainsAmong(puppet, bones)) straighten(puppet, chain)
    checkAll(puppet)
  },
)

function straighten(puppet: Puppet, chain: readonly Bone[]): void {
  const lengths = chain.map((b) => Math.hypot(b.end.x - b.start.x, b.end.y - b.start.y))
  const total = lengths.reduce((a, b) => a + b, 0)
  const from = { ...nth(chain, 0).start }
  const to = { ...nth(chain, -1).end }
  if (near(from, to)) throw new EditError('A chain that ends where it begins has no straight line.')
  const spot = (share: number): Vec => ({ x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share })
  let done = 0
  chain.forEach((b, i) => {
    const chained = new Set(chain.map((c) => c.id))
    const before = { ...b.end }
    b.start = spot(done / total)
    b.end = spot((done += nth(lengths, i)) / total)
    for (const child of b.children.map((c) => boneOf(puppet, c)))
      if (!chained.has(child.id) && near(child.start, before)) moveStart(puppet, child, b.end)
  })
}

/**
 * Lets chains run the other way round: each begins where it ended. Bones keep their places, their names and what they
 * carry; what hung from a bone hangs from it still. A limit holds at the joint where it held, for the bone that turns
 * there now. A single bone swaps its ends.
 */
export const reverseBones = command('bone.reverse', 'Reverse chain', z.object({ bones: z.array(BoneId).min(1) }), (puppet, { bones }) => {
  for (const id of bones) boneOf(puppet, id)
  for (const chain of chainsAmong(puppet, bones)) reverse(puppet, chain)
})

function reverse(puppet: Puppet, chain: readonly Bone[]): void {
  const inChain = new Set(chain.map((b) => b.id))
  const through = puppet.constraints.find((c) => (c.kind === 'reach' || c.kind === 'path') && c.bones.some((id) => inChain.has(id)))
  if (through) throw new EditError(`"${through.name}" goes through these bones; take it off before they are reversed.`)
  const [first, last] = [nth(chain, 0), nth(chain, -1)]
  const above = first.parent
  const list = siblings(puppet, above)
  list[list.indexOf(first.id)] = last.id
  const limits = chain.map((b) => ({ ...b.limits }))
  chain.forEach((bone, i) => {
    for (const place of [bone, ...Object.values(bone.inViews)]) [place.start, place.end] = [{ ...place.end }, { ...place.start }]
    const before = chain[i - 1]
    const next = chain[i + 1]
    bone.children = [...bone.children.filter((c) => c !== next?.id), ...(before ? [before.id] : [])]
    bone.parent = next?.id ?? above
    // The joint between two of them is turned by the other one now, and the other way round.
    const held = next ? nth(limits, i + 1) : nth(limits, 0)
    bone.limits = next ? { min: negative(held.max), max: negative(held.min) } : held
    delete puppet.pose[boneChannel(bone.id, 'angle')]
  })
}

const negative = (limit: number | null): number | null => (limit === null ? null : 0 - limit)

/** Puts bones between a bone and its parent, evenly from the parent's start or end to the bone's start. */
export const insertBones = command(
  'bone.insert',
  'Insert bones',
  z.object({ bone: BoneId, ids: z.array(BoneId).min(1).max(32) }),
  (puppet, { bone, ids }) => {
    const last = boneOf(puppet, bone)
    if (last.parent === null) throw new EditError(`"${last.name}" hangs from nothing: there is nothing to put bones between.`)
    const parent = boneOf(puppet, last.parent)
    const from = near(parent.end, last.start) ? halved(parent, last) : { ...parent.end }
    const at = (k: number): Vec => ({
      x: from.x + ((last.start.x - from.x) * k) / ids.length,
      y: from.y + ((last.start.y - from.y) * k) / ids.length,
    })
    let above = parent
    const place = siblings(puppet, parent.id).indexOf(bone)
    ids.forEach((id, k) => {
      if (puppet.bones[id]) throw new EditError(`There is already a bone "${id}".`)
      checkLength(at(k), at(k + 1))
      puppet.bones[id] = {
        ...newBone(id, `${last.name} root${ids.length > 1 ? ` ${k + 1}` : ''}`.slice(0, 200), at(k), at(k + 1)),
        colour: last.colour,
        parent: above.id,
      }
      if (above.id === parent.id) above.children[place] = id
      else above.children = [id]
      above = puppet.bones[id]
    })
    above.children = [bone]
    last.parent = above.id
    threadChains(puppet, parent.id, ids, false)
  },
)

/** Where a parent has to end so that new bones find room between it and its child. */
function halved(parent: Bone, child: Bone): Vec {
  const middle = { x: (parent.start.x + child.start.x) / 2, y: (parent.start.y + child.start.y) / 2 }
  parent.end = middle
  return { ...middle }
}

/** A chain of bones along given joints; the first hangs from `parent`. */
export const addChain = command(
  'bone.chain',
  'Add chain of bones',
  z.object({
    joints: z.array(Vec).min(2).max(65),
    ids: z.array(BoneId).min(1),
    name: Name,
    parent: BoneId.nullable(),
    colour: z.number().int().min(1).max(CHAIN_COLOURS).optional(),
  }),
  (puppet, { joints, ids, name, parent, colour = chainColour(puppet, null) }) => {
    if (ids.length !== joints.length - 1) throw new EditError('A chain needs one id for each of its bones.')
    ids.forEach((id, i) => {
      if (puppet.bones[id]) throw new EditError(`There is already a bone "${id}".`)
      checkLength(nth(joints, i), nth(joints, i + 1))
      const above = i === 0 ? parent : nth(ids, i - 1)
      puppet.bones[id] = {
        ...newBone(id, ids.length > 1 ? `${name} ${i + 1}` : name, nth(joints, i), nth(joints, i + 1)),
        colour,
        parent: above,
      }
      siblings(puppet, above).push(id)
    })
  },
)

/** Locks or unlocks bones. */
export const lockBones = command(
  'bone.lock',
  'Lock bones',
  z.object({ bones: z.array(BoneId).min(1), locked: z.boolean() }),
  (puppet, { bones, locked }) => {
    for (const bone of bones) boneOf(puppet, bone).locked = locked
  },
)

/** How bones answer to their parents, and how far they may be drawn out. */
export const setBoneNature = command(
  'bone.nature',
  'Change how a bone follows',
  z.object({
    bones: z.array(BoneId).min(1),
    inherits: z.object({ turn: z.boolean(), scale: z.boolean() }).partial().optional(),
    lengths: z
      .object({ min: z.number().min(0.05).max(1), max: z.number().min(1).max(20) })
      .partial()
      .optional(),
    keepsVolume: z.boolean().optional(),
    influence: z
      .object({ radius: size.max(100000).nullable(), strength: z.number().min(0).max(1) })
      .partial()
      .optional(),
  }),
  (puppet, { bones, inherits, lengths, keepsVolume, influence }) => {
    for (const id of bones) {
      const bone = boneOf(puppet, id)
      Object.assign(bone.inherits, inherits)
      Object.assign(bone.lengths, lengths)
      Object.assign(bone.influence, influence)
      if (keepsVolume !== undefined) bone.keepsVolume = keepsVolume
    }
  },
)

/** Turns bones at rest to a direction on the canvas, degrees counter-clockwise from the right; branches go along. */
export const setRestAngle = command(
  'bone.direction',
  'Turn bone at rest',
  z.object({ bone: BoneId, degrees: finite, length: size.optional() }),
  (puppet, { bone, degrees, length }) => {
    const b = boneOf(puppet, bone)
    const size = length ?? Math.hypot(b.end.x - b.start.x, b.end.y - b.start.y)
    const before = { ...b.end }
    const angle = (degrees * Math.PI) / 180
    b.end = { x: b.start.x + size * Math.cos(angle), y: b.start.y - size * Math.sin(angle) }
    checkLength(b.start, b.end)
    for (const child of b.children.map((c) => boneOf(puppet, c))) {
      if (near(child.start, before)) moveBranch(puppet, child, { x: b.end.x - before.x, y: b.end.y - before.y })
    }
  },
)

/** Bones with all that belongs to them, to be put into another puppet. */
export const pasteBones = command(
  'bone.paste',
  'Paste bones',
  z.object({
    bones: z
      .array(
        z
          .object({
            name: Name,
            label: z.string().max(60),
            above: z.number().int().min(-1),
            start: Vec,
            end: Vec,
            colour: z.number().int().min(1).max(CHAIN_COLOURS),
            limits: Limits,
          })
          .extend(Bone.pick({ lengths: true, keepsVolume: true, inherits: true, influence: true }).shape),
      )
      .min(1)
      .max(500),
    ids: z.array(BoneId).min(1),
    parent: BoneId.nullable(),
  }),
  (puppet, { bones, ids, parent }) => {
    if (ids.length !== bones.length) throw new EditError('Pasted bones need one id each.')
    if (parent !== null) boneOf(puppet, parent)
    bones.forEach(({ above, ...own }, i) => {
      const id = nth(ids, i)
      if (puppet.bones[id]) throw new EditError(`There is already a bone "${id}".`)
      if (above >= i) throw new EditError('A pasted bone hangs from one that comes after it.')
      const hangs = above < 0 ? parent : nth(ids, above)
      puppet.bones[id] = { ...newBone(id, own.name, own.start, own.end), ...own, parent: hangs }
      siblings(puppet, hangs).push(id)
    })
  },
)

/** What `pasteBones` takes, of bones with all that hangs from them. */
export function copiedBones(puppet: Puppet, bones: readonly string[]): Parameters<typeof pasteBones.apply>[1]['bones'] {
  const copied = bonesInOrder(puppet, [...bones])
  return copied.map(({ name, label, start, end, colour, limits, lengths, keepsVolume, inherits, influence, parent }) => ({
    lengths,
    keepsVolume,
    inherits,
    influence,
    name,
    label,
    start,
    end,
    colour,
    limits,
    above: copied.findIndex((b) => b.id === parent),
  }))
}

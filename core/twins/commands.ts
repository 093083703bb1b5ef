/** Commands on twins: copies that share artwork with their originals, and have places, poses and names of their own. */
import { current } from 'immer'
import { z } from 'zod'
import { finite, Name, type Affine, type Vec } from '../kernel/numbers'
import { BoneId, IdPrefix, PartId } from '../kernel/ids'
import type { Part, Puppet } from '../puppet/schema'
import { inView } from '../views/views'
import { artworkOf, partsBelow, restMatrix, topmostParts } from '../parts/tree'
import { apply, invert, multiply, placementOf } from '../maths/geometry/affine'
import { mirroredKey } from '../roles/roles'
import type { Copying } from '../kernel/copying'
import { insertAt, knownParts, partOf } from '../parts/lookup'
import { dropUnusedArt } from '../parts/commands'
import { mapped } from '../kernel/mapped'
import { otherSide } from '../kernel/sides'
import { mirroredLimits, natureOf } from '../skeleton/commands'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newBone } from '../bones/new'
import type { Bone } from '../bones/records'
import { bonesInOrder, topmostBones } from '../bones/tree'
import { partsOfBone } from '../binds/tree'
import { knownBones, boneOf } from '../bones/lookup'
import { sure } from '../kernel/sure'

const Across = z.discriminatedUnion('kind', [
  /** The mirror image about an upright line of the canvas. */
  z.object({ kind: z.literal('mirror'), x: finite }),
  /** The same again, moved and turned about the part's own pivot. */
  z.object({ kind: z.literal('move'), dx: finite, dy: finite }),
])
export type Across = z.infer<typeof Across>

/**
 * Makes a twin of parts with all in them, of the bones that move only them, of binds, masks, limits and joints. Names
 * change side where they say one and the twin is a mirror image. Twins stand behind or before everything as their
 * originals do: each right below or above, in reverse order for a mirror image of several.
 */
export const makeTwin = command(
  'twin.make',
  'Make twin',
  z.object({
    parts: z.array(PartId).min(1),
    /** Bones that are copied along, with all that hang from them. */
    bones: z.array(BoneId),
    across: Across,
    prefix: IdPrefix,
    /** Put after the names that say no side. */
    suffix: Name.optional(),
  }),
  (puppet, { parts, bones, across, prefix, suffix }, { copiedPart, copyAlong }) => {
    if (parts.includes(puppet.root)) throw new EditError('The topmost part cannot have a twin: everything hangs from it.')
    const source = current(puppet)
    const tops = topmostParts(source, knownParts(puppet, parts))
    const copied = tops.flatMap((top) => partsBelow(source, top))
    const chains = bonesInOrder(source, topmostBones(source, knownBones(puppet, bones)))
    const copies = new Map(copied.map((part, i) => [part.id, `${prefix}-${i + 1}`]))
    const boneCopies = new Map(chains.map((bone, i) => [bone.id, `${prefix}-bone-${i + 1}`]))
    const names = new Set([...Object.values(source.parts), ...Object.values(source.bones)].map((thing) => thing.name))
    const twins: Twins = {
      source,
      parts: copies,
      bones: boneCopies,
      map: mapOf(across),
      mirrored: across.kind === 'mirror',
      suffix: suffix ?? 'twin',
      names,
    }
    const copying = copyingOf(twins, prefix)
    for (const bone of chains) addBoneTwin(puppet, bone, twins)
    for (const part of copied)
      puppet.parts[sure(copies.get(part.id))] = {
        ...copiedPart(partTwin(part, twins, tops.includes(part.id)), copying),
        twin: { of: part.id, mirrored: twins.mirrored },
      }
    for (const top of tops) {
      const siblings = partOf(puppet, sure(partOf(source, top).parent)).children
      insertAt(siblings, sure(copies.get(top)), siblings.indexOf(top) + 1)
    }
    copyAlong(puppet, copying)
  },
)

interface Twins {
  readonly source: Puppet
  /** From each copied part, and from each copied bone, to its twin. */
  readonly parts: ReadonlyMap<string, string>
  readonly bones: ReadonlyMap<string, string>
  /** From the original's place on the canvas to the twin's. */
  readonly map: Affine
  readonly mirrored: boolean
  readonly suffix: string
  /** Names that are taken; those of twins come to them as they are given. */
  readonly names: Set<string>
}

/** What is told to those that copy along. The original that a twin names is no copy. */
const copyingOf = (twins: Twins, prefix: string): Copying => ({
  source: twins.source,
  isCopied: (kind, id) => (kind === 'part' ? twins.parts : twins.bones).has(id),
  renamed: (kind, id) => (kind === 'part' ? twinShape(twins, id) : twinBone(twins, id)),
  at: (v) => apply(twins.map, v),
  name: (name) => twinName(twins, name),
  mirrored: twins.mirrored,
  prefix,
})

const mapOf = (across: Across): Affine => (across.kind === 'mirror' ? [-1, 0, 0, 1, 2 * across.x, 0] : [1, 0, 0, 1, across.dx, across.dy])

function twinName({ names, mirrored, suffix }: Twins, name: string): string {
  const other = mirrored ? otherSide(name) : null
  if (other !== null) return other
  const stem = `${name} ${suffix}`
  let n = 1
  while (names.has(n === 1 ? stem : `${stem} ${n}`)) n++
  const given = n === 1 ? stem : `${stem} ${n}`
  names.add(given)
  return given
}

function partTwin(part: Part, twins: Twins, isTop: boolean): Part {
  const { source, parts } = twins
  const renamed = (id: string): string => parts.get(id) ?? id
  return {
    ...part,
    id: sure(parts.get(part.id)),
    name: twinName(twins, part.name),
    parent: part.parent === null ? null : renamed(part.parent),
    children: part.children.map(renamed),
    // Inside of the twin everything is as in the original; the mirror stands at its top.
    home: isTop ? homeAcross(source, part, twins.map) : part.home,
    inViews: mapped(part.inViews, (own, view) => ({
      ...own,
      home: isTop ? homeAcross(inView(source, view), partOf(inView(source, view), part.id), twins.map) : own.home,
    })),
    role: part.role && (twins.mirrored ? mirroredKey(part.role) : part.role),
    source: null,
    twin: null,
    sheet: null,
  }
}

/** The home under the same parent that puts a part where the map takes it. */
function homeAcross(source: Puppet, part: Part, map: Affine): Part['home'] {
  const parent = part.parent === null ? ([1, 0, 0, 1, 0, 0] as Affine) : restMatrix(source, part.parent)
  const back = invert(parent)
  if (!back) throw new EditError(`"${part.name}" hangs from something that is flattened to a line.`)
  return placementOf(multiply(multiply(back, map), restMatrix(source, part.id)), part.pivot)
}

/** A bone of the twin: its own copy, the one of the other side by name, or the same. */
function twinBone({ source, bones, mirrored }: Twins, bone: string): string {
  const copy = bones.get(bone)
  if (copy !== undefined) return copy
  const wanted = mirrored ? otherSide(boneOf(source, bone).name) : null
  return (wanted !== null && Object.values(source.bones).find((b) => b.name === wanted)?.id) || bone
}

/** The part that masks a twin or carries it: its copy, the part of the other side by name, or the same. */
function twinShape({ source, parts, mirrored }: Twins, shape: string): string {
  const copy = parts.get(shape)
  if (copy !== undefined) return copy
  const wanted = mirrored ? otherSide(partOf(source, shape).name) : null
  return (wanted !== null && Object.values(source.parts).find((p) => p.name === wanted)?.id) || shape
}

function addBoneTwin(puppet: Puppet, bone: Bone, twins: Twins): void {
  const id = sure(twins.bones.get(bone.id))
  const parent = bone.parent === null ? null : twinBone(twins, bone.parent)
  const at = (v: Vec): Vec => apply(twins.map, v)
  puppet.bones[id] = {
    ...newBone(id, twinName(twins, bone.name), at(bone.start), at(bone.end)),
    parent,
    label: bone.label,
    colour: bone.colour,
    limits: twins.mirrored ? mirroredLimits(bone.limits) : bone.limits,
    ...natureOf(bone),
    inViews: mapped(bone.inViews, ({ start, end }) => ({ start: at(start), end: at(end) })),
  }
  const list = parent === null ? puppet.skeleton : boneOf(puppet, parent).children
  insertAt(list, id, list.length)
}

/** The bones that move only what is in some parts: those a twin of a limb takes along. */
export function limbBones(puppet: Puppet, parts: readonly string[]): string[] {
  const inside = new Set(parts.flatMap((id) => partsBelow(puppet, id).map((p) => p.id)))
  const movesOnly = (bone: string): boolean =>
    bonesInOrder(puppet, [bone]).every((b) => partsOfBone(puppet, b.id).every((p) => inside.has(p.id)))
  const moves = (bone: string): boolean => bonesInOrder(puppet, [bone]).some((b) => partsOfBone(puppet, b.id).length > 0)
  return topmostBones(
    puppet,
    Object.keys(puppet.bones).filter((b) => moves(b) && movesOnly(b)),
  )
}

/** Gives twins artwork of their own: what is changed in one no longer changes the other. */
export const freeTwin = command(
  'twin.free',
  'Make independent',
  z.object({ parts: z.array(PartId).min(1), prefix: IdPrefix }),
  (puppet, { parts, prefix }) => {
    let next = 0
    const before: string[] = []
    for (const id of topmostParts(puppet, knownParts(puppet, parts)))
      for (const part of partsBelow(puppet, id)) {
        part.twin = null
        for (const other of Object.values(puppet.parts)) if (other.twin?.of === part.id) other.twin = null
        before.push(...artworkOf(part))
        for (const [view, art] of Object.entries(part.art)) part.art[view] = ownArt(puppet, art, `${prefix}-${++next}`)
        if (part.merged !== null) part.merged = ownArt(puppet, part.merged, `${prefix}-${++next}`)
      }
    dropUnusedArt(puppet, before)
  },
)

function ownArt(puppet: Puppet, art: string, copy: string): string {
  const [drawing, picture] = [puppet.drawings[art], puppet.pictures[art]]
  if (puppet.drawings[copy] || puppet.pictures[copy]) throw new EditError(`There is already artwork "${copy}".`)
  if (drawing) puppet.drawings[copy] = { ...current(drawing), id: copy }
  else if (picture) puppet.pictures[copy] = { ...current(picture), id: copy }
  return copy
}

/** Commands that make bones from bones: splitting, mirroring, labels. */
import { current } from 'immer'
import { z } from 'zod'
import { finite, type Vec } from '../kernel/numbers'
import { BoneId } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import { threadChains } from '../constraints/chains'
import { insertAt } from '../parts/lookup'
import { mapped } from '../kernel/mapped'
import { otherSide } from '../kernel/sides'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { newBone } from '../bones/new'
import type { Bone, Limits } from '../bones/records'
import { bonesInOrder, topmostBones } from '../bones/tree'
import { boneOf, knownBones } from '../bones/lookup'
import { nth, recordOf } from '../kernel/sure'

/** Sets the label of bones, at most 60 characters. */
export const labelBones = command(
  'bone.label',
  'Label bone',
  z.object({ bones: z.array(BoneId).min(1), label: z.string().max(60, 'a label has at most 60 characters') }),
  (puppet, { bones, label }) => {
    for (const bone of bones) boneOf(puppet, bone).label = label
  },
)

const MOST_PIECES = 64

/**
 * Splits a bone into a chain of equal bones. The first keeps the id, the pose and the whole binds; blended binds are
 * marked out of date, as their bones have moved. Children hang from the last.
 */
export const splitBone = command(
  'bone.split',
  'Split bone',
  z.object({
    bone: BoneId,
    ids: z
      .array(BoneId)
      .min(1)
      .max(MOST_PIECES - 1),
  }),
  (puppet, { bone, ids }) => {
    const first = boneOf(puppet, bone)
    const taken = ids.find((id, i) => puppet.bones[id] || ids.indexOf(id) !== i)
    if (taken !== undefined) throw new EditError(`There is already a bone "${taken}".`)
    const { children } = first
    const piece = pieces(first, ids.length + 1)
    const elsewhere = mapped(first.inViews, (ends) => pieces(ends, ids.length + 1))
    const inViews = (k: number): Bone['inViews'] => mapped(elsewhere, (pieceThere) => pieceThere(k))
    Object.assign(first, piece(0), { inViews: inViews(0), children: [] })
    let above = first
    for (const [i, id] of ids.entries()) {
      const next: Bone = {
        ...newBone(id, `${first.name} ${i + 2}`.slice(0, 200), piece(i + 1).start, piece(i + 1).end),
        colour: first.colour,
        parent: above.id,
        inViews: inViews(i + 1),
      }
      puppet.bones[id] = next
      above.children = [id]
      above = puppet.bones[id]
    }
    above.children = [...children]
    for (const child of children) boneOf(puppet, child).parent = above.id
    threadChains(puppet, bone, ids, true)
  },
)

type Ends = Pick<Bone, 'start' | 'end'>

/** Where each of `count` equal pieces of a bone lies. */
function pieces({ start, end }: Ends, count: number): (k: number) => Ends {
  const [from, to] = [{ ...start }, { ...end }]
  const at = (k: number): Vec => ({ x: from.x + ((to.x - from.x) * k) / count, y: from.y + ((to.y - from.y) * k) / count })
  return (k) => ({ start: at(k), end: at(k + 1) })
}

/** What of a bone its copies share, wherever they are. */
export const natureOf = ({ lengths, keepsVolume, inherits }: Bone): Pick<Bone, 'lengths' | 'keepsVolume' | 'inherits'> => ({
  lengths,
  keepsVolume,
  inherits,
})

/** Limits of a bone's mirror image. */
export const mirroredLimits = ({ min, max }: Limits): Limits => ({
  min: max === null ? null : -max || 0,
  max: min === null ? null : -min || 0,
})

/**
 * Copies bones with all that hang from them to the other side of an upright line; names change side, limits turn
 * round. A copy hangs from the mirrored parent where that is copied too, else from the bone that its name asks for on
 * the other side, else from the same parent.
 *
 * @param ids from each copied bone to its copy; every bone below the given ones needs one
 */
export const mirrorBones = command(
  'bone.mirror',
  'Mirror bones',
  z.object({ bones: z.array(BoneId).min(1), ids: z.record(BoneId, BoneId), at: finite }),
  (puppet, { bones, ids, at }, { copyAlong }) => {
    const copied = bonesInOrder(puppet, topmostBones(puppet, knownBones(puppet, bones)))
    for (const { id, name } of copied) {
      const copy = Object.hasOwn(ids, id) ? ids[id] : undefined
      if (copy === undefined) throw new EditError(`The copy of "${name}" has no id.`)
      if (puppet.bones[copy]) throw new EditError(`There is already a bone "${copy}".`)
    }
    const across = (v: Vec): Vec => ({ x: 2 * at - v.x, y: v.y })
    for (const bone of copied) {
      const parent = mirroredParent(puppet, bone, ids)
      const id = recordOf(ids, bone.id)
      puppet.bones[id] = {
        ...newBone(id, otherSide(bone.name) ?? bone.name, across(bone.start), across(bone.end)),
        parent,
        label: bone.label,
        colour: bone.colour,
        limits: mirroredLimits(bone.limits),
        ...natureOf(bone),
        inViews: mapped(bone.inViews, ({ start, end }) => ({ start: across(start), end: across(end) })),
      }
      const list = parent === null ? puppet.skeleton : boneOf(puppet, parent).children
      insertAt(list, id, list.length)
    }
    copyAlong(puppet, {
      source: current(puppet),
      isCopied: (kind, id) => kind === 'bone' && Object.hasOwn(ids, id) && copied.some((b) => b.id === id),
      renamed: (kind, id) => (kind === 'bone' ? (mirroredParent(puppet, { parent: id }, ids) ?? id) : id),
      at: across,
      name: (name) => otherSide(name) ?? name,
      mirrored: true,
      prefix: recordOf(ids, nth(copied, 0).id),
    })
    bindMirrored(puppet, copied, ids)
  },
)

/** The bone that a bone's name asks for on the other side; null where there is none. */
function sideBone(puppet: Puppet, bone: string): string | null {
  const wanted = otherSide(boneOf(puppet, bone).name)
  return (wanted !== null && Object.values(puppet.bones).find((b) => b.name === wanted)?.id) || null
}

/** Parts that a copied bone moves whole hand on their bind to the parts of the other side, where those have none. */
function bindMirrored(puppet: Puppet, copied: readonly Bone[], ids: Readonly<Record<string, string>>): void {
  const byName = new Map(Object.values(puppet.parts).map((p) => [p.name, p]))
  for (const { name, bind } of Object.values(puppet.parts)) {
    if (bind?.kind !== 'whole' || !copied.some((b) => b.id === bind.bone)) continue
    const wanted = otherSide(name)
    const twin = wanted === null ? undefined : byName.get(wanted)
    if (twin && twin.bind === null) twin.bind = { kind: 'whole', bone: recordOf(ids, bind.bone) }
  }
}

function mirroredParent(puppet: Puppet, bone: Pick<Bone, 'parent'>, ids: Readonly<Record<string, string>>): string | null {
  if (bone.parent === null) return null
  const copy = ids[bone.parent]
  if (copy !== undefined && puppet.bones[copy]) return copy
  return sideBone(puppet, bone.parent) ?? bone.parent
}

/** The bones that a mirroring copies: the given ones with all that hang from them. */
export const bonesWithBranches = (puppet: Puppet, bones: readonly string[]): string[] => [
  ...new Set(bones.flatMap((id) => bonesInOrder(puppet, [id]).map((b) => b.id))),
]

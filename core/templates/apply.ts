/** A plan made real: the edits that draw its bones and bind its parts. */
import { autoWeights, WeightsError } from '../binds/autoWeights'
import type { BoneId, IdSource } from '../kernel/ids'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { restMatrix } from '../parts/tree'
import { bindBlended, bindWhole } from '../binds/commands'
import { addBone, deleteBone, setLimits } from '../bones/commands'
import { applyEdits } from '../puppet/edit'
import { movePart, setPivot } from '../parts/commands'
import { apply, invert } from '../maths/geometry/affine'
import type { FitPlan } from './fit'
import { edit, type Edit } from '../kernel/command'
import { setRole } from '../roles/commands'
import { nth, sure } from '../kernel/sure'
import { partOf } from '../parts/lookup'

/** A puppet that was fitted, and the edits that did it. */
export interface AppliedFit {
  readonly puppet: Puppet
  readonly edits: readonly Edit[]
  /** Parts that could not be bent, one sentence each. */
  readonly failed: readonly { readonly what: string; readonly why: string }[]
}

interface ApplyOptions {
  readonly ids: IdSource
  /** Whether the bones that are there go first. */
  readonly replace?: boolean
  /** Parts of the top in the order in which they are to be painted; they stay as they are without it. */
  readonly order?: readonly string[]
  readonly progress?: (done: number) => void
}

/** Works out the edits of a plan, the weights of parts that bend included. As one history entry they are one step. */
export function applyFit(puppet: Puppet, plan: FitPlan, { ids, replace = false, order, progress }: ApplyOptions): AppliedFit {
  const edits: Edit[] = []
  let made = puppet
  const add = (...more: Edit[]): void => {
    if (more.length === 0) return
    made = applyEdits(made, more).puppet
    edits.push(...more)
  }
  if (replace) add(...removals(puppet))
  const bones = new Map(plan.bones.map((b) => [b.key, ids('bone')]))
  add(...boneEdits(plan, bones), ...pivotEdits(puppet, plan))
  add(...Object.entries(plan.roles).map(([part, role]) => edit(setRole, { parts: [part], role })))
  order?.forEach((part, index) => {
    if (partOf(made, made.root).children[index] !== part) add(edit(movePart, { part, parent: made.root, index }))
  })
  for (const { part, bone } of plan.followers) add(edit(bindWhole, { parts: [part], bone: sure(bones.get(bone)) }))
  const failed: { what: string; why: string }[] = []
  plan.binds.forEach(({ part, bones: keys }, i) => {
    const list = keys.map((key) => sure(bones.get(key)))
    try {
      add(bindEdit(made, part, list))
    } catch (error) {
      if (!(error instanceof WeightsError)) throw error
      failed.push({ what: partOf(puppet, part).name, why: error.message })
      add(edit(bindWhole, { parts: [part], bone: nth(list, 0) }))
    }
    progress?.((i + 1) / plan.binds.length)
  })
  return { puppet: made, edits, failed }
}

const removals = (puppet: Puppet): Edit[] => puppet.skeleton.map((bone) => edit(deleteBone, { bone, withChildren: true }))

const boneEdits = (plan: FitPlan, ids: ReadonlyMap<string, BoneId>): Edit[] =>
  plan.bones.flatMap(({ key, name, parent, start, end, colour, limits }) => {
    const id = sure(ids.get(key))
    const drawn = edit(addBone, {
      id,
      name,
      parent: parent === null ? null : sure(ids.get(parent)),
      start: rounded(start),
      end: rounded(end),
      colour,
    })
    return limits.min === null && limits.max === null ? [drawn] : [drawn, edit(setLimits, { bone: id, limits })]
  })

const pivotEdits = (puppet: Puppet, plan: FitPlan): Edit[] =>
  plan.pivots.flatMap(({ part, at }) => {
    const back = invert(restMatrix(puppet, part))
    return back ? [edit(setPivot, { part, pivot: rounded(apply(back, at)) })] : []
  })

const bindEdit = (puppet: Puppet, part: string, bones: readonly BoneId[]): Edit =>
  bones.length === 1
    ? edit(bindWhole, { parts: [part], bone: nth(bones, 0) })
    : edit(bindBlended, { part, bones: [...bones], field: autoWeights(puppet, part, bones) })

const rounded = ({ x, y }: Vec): Vec => ({ x: Math.round(x * 100) / 100, y: Math.round(y * 100) / 100 })

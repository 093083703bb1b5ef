/**
 * `rig sweep IN`: turns every joint through its limits, in every view, and counts what is wrong. With `--poses` it poses
 * everything together at random instead, and looks for joints that open.
 */
import type { CanvasKit } from 'canvaskit-wasm'
import { proposeJoints } from '@marionette/core/joints/proposeJoints'
import type { Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { inView } from '@marionette/core/views/views'
import { randomPose } from '@marionette/core/reports/randomPose'
import { seededRandom } from '@marionette/core/maths/solve/random'
import { loadCanvasKit } from '@marionette/render/node'
import { faultSaid, GRADE_NAMES } from '@marionette/core/reports/sweepGrade'
import { sweepJoint, tornJoints, type Sweep, type TornJoint } from '@marionette/authoring/sweep'
import { readInput } from './files'
import { Failure } from './failure'
import { wholeNumber } from './numbers'
import type { Joint } from '@marionette/core/joints/records'
import { nth } from '@marionette/core/kernel/sure'

/** Degrees between the pictures of a joint, at most. */
const STEP = 5

/** Poses that are tried at most: half an hour of them. */
const MOST_POSES = 50_000

export interface SweepFlags {
  readonly json: boolean
  readonly poses?: string | undefined
  readonly seed?: string | undefined
}

export async function sweep(input: string, { json, poses, seed }: SweepFlags): Promise<string> {
  const { puppet, assets } = await readInput(input)
  if (Object.keys(puppet.joints).length === 0) {
    const found = proposeJoints(puppet).length
    throw new Failure(`${input}: there are no joints in it${found > 0 ? `; ${found} could be made` : ''}`)
  }
  const CK = await loadCanvasKit()
  if (poses !== undefined) {
    const count = wholeNumber('--poses', poses, MOST_POSES)
    const torn = sweepPoses(CK, puppet, assets, count, wholeNumber('--seed', seed ?? '1', 2 ** 31 - 2))
    return json ? JSON.stringify({ puppet: puppet.name, poses: count, torn }, null, 2) : describePoses(count, torn)
  }
  const swept = puppet.views.flatMap(({ id, name }): SweptJoint[] => {
    const seen = inView(puppet, id)
    return jointsShown(seen).map((joint) => ({
      view: name,
      ...sweepJoint(CK, seen, joint, { size: 256, step: STEP, assets: (hash) => assets.get(hash) }),
    }))
  })
  if (json) return JSON.stringify({ puppet: puppet.name, pixels: 256, joints: swept }, null, 2)
  return swept.map((s) => (puppet.views.length > 1 ? `${s.view}: ${describe(s)}` : describe(s))).join('\n')
}

function sweepPoses(
  CK: CanvasKit,
  puppet: Puppet,
  assets: ReadonlyMap<string, Uint8Array>,
  count: number,
  seed: number,
): (TornJoint & { view: string })[] {
  return puppet.views.flatMap(({ id, name }) => {
    const seen = inView(puppet, id)
    const random = seededRandom(seed)
    const poses = Array.from({ length: count }, () => randomPose(seen, random))
    const shown = { ...seen, joints: Object.fromEntries(jointsShown(seen).map((j) => [j.id, j])) }
    return tornJoints(CK, shown, poses, { assets: (hash) => assets.get(hash) }).map((t) => ({ view: name, ...t }))
  })
}

function describePoses(count: number, torn: readonly TornJoint[]): string {
  if (torn.length === 0) return `${count} poses: no joint opens`
  const worst = nth(
    [...torn].sort((a, b) => b.holes + 10 * b.apart - a.holes - 10 * a.apart),
    0,
  )
  return `${count} poses: ${torn.length} times a joint opens, worst ${worst.under} – ${worst.over} in pose ${worst.pose + 1} with ${worst.holes} px of holes`
}

type SweptJoint = Sweep & { readonly view: string }

/** Joints of which both parts show something in the shown view. */
const jointsShown = (puppet: Puppet): Joint[] =>
  Object.values(puppet.joints).filter((j) => [j.under, j.over].every((part) => restBounds(puppet, part) !== null))

function describe(s: Sweep): string {
  const found = s.verdict.grade === 'good' ? GRADE_NAMES.good : `${GRADE_NAMES[s.verdict.grade]}: ${faultSaid(s.verdict)}`
  return `${s.under} – ${s.over}  ${s.min}° to ${s.max}°, ${s.angles.length} angles: ${found}`
}

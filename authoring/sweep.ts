/** Turning a joint through its limits and looking at it: pictures from Skia, faults from core/reports/sweep. */
import type { CanvasKit } from 'canvaskit-wasm'
import { LINE_THRESHOLD } from '@marionette/core/artwork/linePixels'
import type { Puppet } from '@marionette/core/puppet/schema'
import { findFaults, openedOf, readRest, type Faults } from '@marionette/core/reports/sweep'
import { decidingFault, worstFaults, type SweepScale, type WorstFault } from '@marionette/core/reports/sweepGrade'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, poseRig, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { anglesBetween, jointTurn } from '@marionette/core/joints/turn'
import { Painter } from '@marionette/render/painter'
import { indicesOf, JointLooker, piecesOf, regionOf } from './jointLooker'
import { renderPng } from '@marionette/render/png'
import type { AssetSource } from '@marionette/render/textures'
import type { Joint } from '@marionette/core/joints/records'
import { partOf } from '@marionette/core/parts/lookup'

export interface SweptAngle extends Faults {
  /** Degrees. */
  readonly angle: number
}

export interface Sweep {
  readonly joint: string
  readonly under: string
  readonly over: string
  readonly channel: string
  readonly min: number
  readonly max: number
  readonly angles: readonly SweptAngle[]
  /** The largest fault of each kind, and the one that decides how the joint is graded. */
  readonly worst: readonly WorstFault[]
  readonly verdict: WorstFault
  /** How its pictures were taken. */
  readonly scale: SweepScale
  /** Sums over all angles, px. */
  readonly holes: number
  readonly corners: number
  readonly doubled: number
}

export interface SweepOptions {
  /** Angles tried, limits included; without it as many as `step` asks for. */
  readonly count?: number
  /** The angles themselves, degrees; instead of `count` and `step`. */
  readonly angles?: readonly number[]
  /** Degrees between two angles, at most. */
  readonly step?: number
  /** Side of the pictures, px. */
  readonly size?: number
  readonly assets?: AssetSource | undefined
  /** Lightness below which a pixel of a picture belongs to a line. */
  readonly threshold?: number
  readonly progress?: (done: number) => void
}

/** Turns a joint through its limits and counts its faults at each angle. */
export function sweepJoint(CK: CanvasKit, puppet: Puppet, joint: Joint, options: SweepOptions = {}): Sweep {
  const { size = 256, step = 5, threshold = LINE_THRESHOLD, progress } = options
  const turn = jointTurn(puppet, joint)
  const count = options.count ?? 1 + Math.ceil((turn.max - turn.min) / step)
  const looker = new JointLooker(CK, puppet, joint, size, threshold, options.assets)
  try {
    const rest = readRest(looker.look({}))
    const tried = options.angles ?? anglesBetween(turn.min, turn.max, count)
    const angles = tried.map((angle, i, all): SweptAngle => {
      const view = looker.look({ [turn.address]: angle })
      progress?.((i + 1) / all.length)
      const turns = turn.turning === 'over' ? { under: 0, over: angle } : { under: angle, over: 0 }
      return { angle: Math.round(1000 * angle) / 1000, ...findFaults(view, rest, turns) }
    })
    const sum = (key: keyof Faults): number => angles.reduce((total, a) => total + a[key], 0)
    const name = (part: string): string => partOf(puppet, part).name
    const scale: SweepScale = { scale: looker.scale, line: looker.line, radius: looker.radius, drawn: rest.doubled }
    const worst = worstFaults(angles, scale)
    return {
      ...{ worst, verdict: decidingFault(worst), scale },
      ...{ joint: joint.id, under: name(joint.under), over: name(joint.over), channel: turn.address, min: turn.min, max: turn.max },
      ...{ angles, holes: sum('holes'), corners: sum('corners'), doubled: sum('doubled') },
    }
  } finally {
    looker.dispose()
  }
}

/** The angle with most faults first; of equals the one farther from rest. */
export const worstFirst = (sweep: Sweep): SweptAngle[] =>
  [...sweep.angles].sort(
    (a, b) => b.holes + b.corners + b.doubled - (a.holes + a.corners + a.doubled) || Math.abs(b.angle) - Math.abs(a.angle),
  )

/** Pictures of a joint as it is painted, at some angles, as PNG. */
export function pictureJoint(
  CK: CanvasKit,
  puppet: Puppet,
  joint: Joint,
  angles: readonly number[],
  size: number,
  assets?: AssetSource,
): Uint8Array[] {
  const rig = compile(puppet)
  const { address } = jointTurn(puppet, joint)
  const painter = new Painter(CK, assets)
  const pieces = piecesOf(puppet, joint)
  const only = indicesOf(rig, puppet, [...pieces.under, ...pieces.over])
  try {
    return angles.map((angle) =>
      renderPng(CK, poseRig(rig, { [address]: angle }), {
        width: size,
        background: null,
        region: regionOf(joint, joint.at),
        painter,
        only,
      }),
    )
  } finally {
    painter.dispose()
  }
}

/** A joint that opens, or comes apart, in some pose. */
export interface TornJoint {
  readonly under: string
  readonly over: string
  /** Number of the pose among those that were tried. */
  readonly pose: number
  /** Background seen in what the joint covers at rest, px of the picture. */
  readonly holes: number
  /** How far its pieces have the pivot from each other, in radii of the joint. */
  readonly apart: number
}

/** Fewer px than this are the rim of a disc that is drawn small. */
const SMALL_HOLE = 4
/** Pieces whose pivots lie farther apart than this, in radii, have lost each other; a soft shoulder goes a little way of its own. */
const LOST = 1.5

/** Looks at every joint in poses of everything together, wherever they bring it. */
export function tornJoints(
  CK: CanvasKit,
  puppet: Puppet,
  poses: readonly Readonly<Record<string, number>>[],
  { size = 72, threshold = LINE_THRESHOLD, assets, progress }: SweepOptions = {},
): TornJoint[] {
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose.length)
  const painter = new Painter(CK, assets, 'quick')
  const joints = Object.values(puppet.joints).map((joint) => {
    const looker = new JointLooker(CK, puppet, joint, size, threshold, assets)
    return { joint, looker, rest: readRest(looker.look({})) }
  })
  const nameOf = (part: string): string => partOf(puppet, part).name
  try {
    return poses.flatMap((values, number) => {
      evaluate(rig, writePose(rig, values, pose), frame)
      progress?.((number + 1) / poses.length)
      return joints.flatMap(({ joint, looker, rest }): TornJoint[] => {
        const { view, apart } = looker.follow(frame, painter)
        const found = { pose: number, holes: openedOf(view, rest), apart: apart / joint.radius }
        const isTorn = found.holes > SMALL_HOLE || found.apart > LOST
        return isTorn ? [{ under: nameOf(joint.under), over: nameOf(joint.over), ...found }] : []
      })
    })
  } finally {
    for (const { looker } of joints) looker.dispose()
    painter.dispose()
  }
}

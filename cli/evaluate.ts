/** `rig evaluate IN --pose FILE --json`: where bones and parts are in a pose or at moments of a clip, and in which order they are painted. */
import { posePuppet } from '@marionette/core/puppet/evaluate'
import { bonePoint, boundsOfParts } from '@marionette/core/puppet/probe'
import { namedClip, poseInClip } from '@marionette/core/playing/clips'
import type { Puppet } from '@marionette/core/puppet/schema'
import { Failure } from './failure'
import { readInput, readPose } from './files'
import type { Frame } from '@marionette/core/puppet/frame'
import { nth } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'
import { partOf } from '@marionette/core/parts/lookup'

type Point = readonly [number, number]

export interface Evaluation {
  readonly bones: readonly { id: string; name: string; parent: string | null; start: Point; end: Point }[]
  /** Bounds [min x, min y, max x, max y] of each part with everything in it, canvas px; null where it shows nothing. */
  readonly parts: readonly { id: string; name: string; bounds: readonly [number, number, number, number] | null }[]
  /** Ids of the parts that show something, bottom to top. */
  readonly order: readonly string[]
}

function evaluation(frame: Frame): Evaluation {
  const { rig } = frame
  const { puppet } = rig
  const point = (bone: number, at: number): Point => {
    const { x, y } = bonePoint(frame, bone, at)
    return [x, y]
  }
  return {
    bones: rig.bones.ids.map((id, bone) => {
      const { name, parent } = boneOf(puppet, id)
      return { id, name, parent, start: point(bone, 0), end: point(bone, 1) }
    }),
    parts: boundsOfParts(frame).map((box, i) => {
      const id = nth(rig.parts.ids, i)
      return { id, name: partOf(puppet, id).name, bounds: box && [box.minX, box.minY, box.maxX, box.maxY] }
    }),
    order: rig.drawings.slice(0, rig.shown).map((d) => nth(rig.parts.ids, d.part)),
  }
}

const rounded = (v: number): number => Math.round(v * 100) / 100

/** What is asked of an input: a pose, or moments of a clip. */
interface Asked {
  readonly pose?: string | undefined
  readonly clip?: string | undefined
  /** Seconds into the clip, in any order. */
  readonly times: readonly string[]
  readonly json: boolean
}

function readTime(text: string): number {
  const time = Number(text)
  if (text.trim() === '' || !Number.isFinite(time) || time < 0) throw new Failure(`--time ${text}: a time is seconds from 0 on`)
  return time
}

export async function evaluateInput(input: string, { pose, clip, times, json }: Asked): Promise<string> {
  const { puppet } = await readInput(input)
  if (clip === undefined) {
    if (times.length > 0) throw new Failure('--time says a moment of a clip; name it with --clip')
    return said(evaluation(posePuppet(puppet, pose === undefined ? puppet.pose : readPose(pose)(puppet))), puppet, json)
  }
  if (pose !== undefined) throw new Failure('--pose and --clip cannot be shown at once')
  const acted = namedClip(puppet, clip)
  const moments = (times.length === 0 ? ['0'] : times).map((text) => {
    const time = readTime(text)
    return { time, ...evaluation(posePuppet(puppet, poseInClip(puppet, acted, time), { time, simulation: null })) }
  })
  if (!json) return moments.map((m) => `time  ${m.time} s\n${said(m, puppet, false)}`).join('\n\n')
  return JSON.stringify(moments.length === 1 ? moments[0] : moments, null, 2)
}

function said(found: Evaluation, puppet: Puppet, json: boolean): string {
  if (json) return JSON.stringify(found, null, 2)
  const points = (...p: readonly Point[]): string => p.map(([x, y]) => `${rounded(x)},${rounded(y)}`).join(' to ')
  return [
    ...found.bones.map((b) => `bone  ${b.name}  ${points(b.start, b.end)}`),
    ...found.parts.map((p) => `part  ${p.name}  ${p.bounds ? p.bounds.map(rounded).join(' ') : 'shows nothing'}`),
    `order ${found.order.map((id) => partOf(puppet, id).name).join(', ')}`,
  ].join('\n')
}

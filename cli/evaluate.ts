/** `rig evaluate IN --pose FILE --json`: where bones and parts are in a pose or at moments of a clip, and in which order they are painted. */
import { bonePoint, boundsOfParts } from '@marionette/core/puppet/probe'
import type { Puppet } from '@marionette/core/puppet/schema'
import { readInput } from './files'
import { checkShown, momentsOf, type Shown } from './moments'
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

export async function evaluateInput(input: string, shown: Shown, json: boolean): Promise<string> {
  checkShown(shown)
  const { puppet } = await readInput(input)
  const found = momentsOf(puppet, shown).map(({ time, frame }) => ({ ...(time === null ? {} : { time }), ...evaluation(frame) }))
  if (json) return JSON.stringify(found.length === 1 ? found[0] : found, null, 2)
  return found.map((m) => `${m.time === undefined ? '' : `time  ${m.time} s\n`}${said(m, puppet)}`).join('\n\n')
}

function said(found: Evaluation, puppet: Puppet): string {
  const points = (...p: readonly Point[]): string => p.map(([x, y]) => `${rounded(x)},${rounded(y)}`).join(' to ')
  return [
    ...found.bones.map((b) => `bone  ${b.name}  ${points(b.start, b.end)}`),
    ...found.parts.map((p) => `part  ${p.name}  ${p.bounds ? p.bounds.map(rounded).join(' ') : 'shows nothing'}`),
    `order ${found.order.map((id) => partOf(puppet, id).name).join(', ')}`,
  ].join('\n')
}

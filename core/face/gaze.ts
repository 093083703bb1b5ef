/** Where eyes look: a pad, a point that they aim at, and eyes that cross. All of it keeps irises within an area of their own. */
import type { PartId, TargetId } from '../kernel/ids'
import type { Change, Stop } from '../responses/records'
import type { Control } from '../controls/records'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { restBounds } from '../parts/tree'
import { addTarget } from '../constraints/commands'
import { addControl } from '../controls/commands'
import { addResponse } from '../responses/commands'
import { shifted, sliderEdits } from './sliders'
import { edit, type Edit } from '../kernel/command'
import { newControl } from '../controls/new'
import { newResponse } from '../responses/new'
import type { EyeParts } from './eyeParts'
import { nth, sure } from '../kernel/sure'

const moved = (iris: PartId, by: Vec): Change[] => [...shifted(iris, 'x', by.x), ...shifted(iris, 'y', by.y)]

const middleOf = (puppet: Puppet, part: PartId): Vec => {
  const box = sure(restBounds(puppet, part))
  return { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 }
}

/** How far an iris goes to each side and up and down: its middle stays in its area, or all of it within the white. */
function roomOf(puppet: Puppet, { white, iris, area }: EyeParts, reach: number): Vec {
  const [w, i] = [sure(restBounds(puppet, white)), sure(restBounds(puppet, iris))]
  const a = area === null ? null : restBounds(puppet, area)
  if (a) return { x: (a.maxX - a.minX) / 2, y: (a.maxY - a.minY) / 2 }
  const room = (low: 'minX' | 'minY', high: 'maxX' | 'maxY'): number => Math.max(0, (w[high] - w[low] - (i[high] - i[low])) / 2)
  return { x: reach * room('minX', 'maxX'), y: reach * room('minY', 'maxY') }
}

/** A way no further than an ellipse around rest lets it go. */
function within(room: Vec, { x, y }: Vec): Vec {
  const far = Math.hypot(room.x > 0 ? x / room.x : 0, room.y > 0 ? y / room.y : 0)
  return far > 1 ? { x: x / far, y: y / far } : { x, y }
}

/** Eight stops around rest: sides, and corners on the same ellipse. */
const AROUND = [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((x) => [x, y] as const)).filter(([x, y]) => x !== 0 || y !== 0)

const pad = (id: string, name: string, channels: readonly [string, string], stops: readonly Stop[]): Edit => {
  const inputs = channels.map((channel) => ({ kind: 'channel' as const, channel }))
  const response = { ...newResponse(id, name, 'pad', inputs), between: 'even' as const, stops: stops.filter((s) => s.changes.length > 0) }
  return edit(addResponse, { response })
}

/** A pad by which all eyes look to one side. */
export function gazePad(puppet: Puppet, eyes: readonly EyeParts[], reach: number, id: string): Edit[] {
  const control: Control = { ...newControl(`${id}-gaze`, 'Gaze', 'pad'), group: 'Eyes', colour: 6, symmetric: true }
  const stops = AROUND.map(([x, y], k): Stop => {
    const size = Math.hypot(x, y)
    const changes = eyes.flatMap((eye) => {
      const room = roomOf(puppet, eye, reach)
      return moved(eye.iris, { x: (room.x * x) / size, y: (-room.y * y) / size })
    })
    return { id: `s${k + 1}`, at: [x, y], changes }
  })
  const channels = [`control/${control.id}/x`, `control/${control.id}/y`] as const
  return [edit(addControl, { control }), pad(`${id}-gaze-answer`, 'Gaze', channels, stops)]
}

/** Rings of stops around a target's rest, in distances between the eyes; beyond the last the eyes have gone as far as they go. */
const RINGS = [0.5, 1.2, 3]
/** How far in front of the face a target is thought, in distances between the eyes. */
const DEPTH = 1.5

/**
 * A target that the eyes look at. It is thought to hang in front of the face: an eye turns by the angle under which it sees it, so that
 * both cross a little when it comes near to the nose.
 */
export function gazeAim(puppet: Puppet, eyes: readonly EyeParts[], reach: number, id: string): Edit[] {
  const centres = eyes.map((eye) => middleOf(puppet, eye.iris))
  const at = { x: centres.reduce((s, c) => s + c.x, 0) / eyes.length, y: centres.reduce((s, c) => s + c.y, 0) / eyes.length }
  const [first] = eyes
  const white = sure(restBounds(puppet, sure(first).white))
  const apart =
    eyes.length > 1
      ? Math.hypot(nth(centres, 0).x - nth(centres, 1).x, nth(centres, 0).y - nth(centres, 1).y)
      : 2 * (white.maxX - white.minX)
  const looks = (eye: number, offset: Vec): Vec => {
    const [x, y] = [at.x + offset.x - nth(centres, eye).x, at.y + offset.y - nth(centres, eye).y]
    const far = Math.hypot(x, y, DEPTH * apart)
    const room = roomOf(puppet, nth(eyes, eye), reach)
    return { x: (room.x * x) / far, y: (room.y * y) / far }
  }
  const stops = RINGS.flatMap((ring, r) =>
    AROUND.map(([x, y], k): Stop => {
      const size = Math.hypot(x, y)
      const offset = { x: (ring * apart * x) / size, y: (ring * apart * y) / size }
      const changes = eyes.flatMap((eye, e) => {
        const [there, rest] = [looks(e, offset), looks(e, { x: 0, y: 0 })]
        return moved(eye.iris, within(roomOf(puppet, eye, reach), { x: there.x - rest.x, y: there.y - rest.y }))
      })
      return { id: `s${r * AROUND.length + k + 1}`, at: [offset.x, offset.y], changes }
    }),
  )
  const target: TargetId = `${id}-aim`
  return [
    edit(addTarget, { id: target, name: 'Look at', at, parent: null }),
    pad(`${id}-aim-answer`, 'Eyes look at it', [`target/${target}/x`, `target/${target}/y`], stops),
  ]
}

/** A slider by which two eyes look at the nose, or away from each other. */
export function crossing(puppet: Puppet, eyes: readonly EyeParts[], reach: number, id: string): Edit[] {
  if (eyes.length !== 2) return []
  const [a = 0, b = 0] = eyes.map((eye) => middleOf(puppet, eye.white).x)
  const inwards = (k: number): number => (k === 0 ? Math.sign(b - a) : Math.sign(a - b))
  const crossed = (share: number): Change[] =>
    eyes.flatMap((eye, k) => moved(eye.iris, { x: share * inwards(k) * roomOf(puppet, eye, reach).x, y: 0 }))
  // Eyes part less far than they cross.
  const stops = [[-1, crossed(-0.5)] as const, [1, crossed(0.9)] as const]
  return sliderEdits({
    ...{ id: `${id}-cross`, name: 'Crossing', group: 'Eyes', colour: 6, rest: null },
    ...{ answer: 'Eyes cross', between: 'even', stops },
  })
}

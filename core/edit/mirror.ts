/**
 * The other side: what a pose, a recorded change or a response is when left and right are swapped. Things find their
 * counterparts by their names, twins by the link to their original; what has none is its own.
 */
import { z } from 'zod'
import { channelOf } from '../document/channels'
import { ResponseId } from '../document/ids'
import type { Affine, Change, ChangeOf, Drawing, Input, InputSpot, Puppet, Response } from '../document/schema'
import { restMatrix } from '../document/tree'
import { apply, invert, multiply } from '../geometry/affine'
import { command, EditError } from './command'
import { responseOf } from './responses'
import { otherSide } from './sides'

interface Named {
  readonly id: string
  readonly name: string
}

/** The thing on the other side; its own id where it has no counterpart. */
function counterpart(list: readonly Named[], id: string): string {
  const own = list.find((n) => n.id === id)
  const name = own && otherSide(own.name)
  return (name && list.find((n) => n.name === name)?.id) ?? id
}

/** The part on the other side: its mirrored twin, what it is the twin of, or the one of the other name. */
export function otherPart(puppet: Puppet, id: string): string {
  const { twin } = puppet.parts[id] ?? {}
  if (twin?.mirrored && puppet.parts[twin.of]) return twin.of
  const made = Object.values(puppet.parts).find((p) => p.twin?.of === id && p.twin.mirrored)
  return made?.id ?? counterpart(Object.values(puppet.parts), id)
}

/** The address on the other side. */
export function otherAddress(puppet: Puppet, address: string): string {
  const [family, id = '', field] = address.split('/')
  const lists: Record<string, readonly Named[]> = {
    bone: Object.values(puppet.bones),
    target: Object.values(puppet.targets),
    constraint: puppet.constraints,
    control: puppet.controls,
  }
  const other = family === 'part' ? otherPart(puppet, id) : lists[family!] ? counterpart(lists[family!]!, id) : id
  const made = `${family}/${other}/${field}`
  return channelOf(puppet, made) ? made : address
}

/** From a part's own space to that of the part on the other side, across the middle of the canvas; null where that is flattened. */
function acrossTo(puppet: Puppet, part: string, other: string): Affine | null {
  const back = invert(restMatrix(puppet, other))
  const flip: Affine = [-1, 0, 0, 1, puppet.canvas.width, 0]
  return back && multiply(back, multiply(flip, restMatrix(puppet, part)))
}

/** A twin lies in a mirrored space already: there the same move is the mirror image. */
function partSign(puppet: Puppet, part: string, field: string): 1 | -1 {
  const map = acrossTo(puppet, part, otherPart(puppet, part))
  if (!map) return 1
  const by = field === 'x' ? map[0] : field === 'y' ? map[3] : field === 'angle' ? map[0] * map[3] - map[1] * map[2] : 1
  return by < 0 ? -1 : 1
}

/** 1 for a channel that is the same on the other side, -1 for one that goes the other way. */
export function mirrorSign(puppet: Puppet, address: string): 1 | -1 {
  const [family, id = '', field = ''] = address.split('/')
  if (family === 'part') return partSign(puppet, id, field)
  if (family === 'bone' || family === 'target') return field === 'angle' || field === 'x' ? -1 : 1
  if (family === 'control') return field === 'x' ? -1 : 1
  return family === 'constraint' && field === 'side' ? -1 : 1
}

/** A value of a channel on the other side: what goes the other way does so from rest. */
function mirroredValue(puppet: Puppet, address: string, value: number): number {
  const rest = channelOf(puppet, address)?.rest ?? 0
  return mirrorSign(puppet, address) === 1 ? value : 2 * rest - value
}

/** The mirror image of a pose. */
export const mirroredPose = (puppet: Puppet, values: Readonly<Record<string, number>>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([a, v]) => [otherAddress(puppet, a), mirroredValue(puppet, a, v)]))

function otherInput(puppet: Puppet, input: Input): Input {
  const spot = (s: InputSpot): InputSpot =>
    'bone' in s
      ? { bone: counterpart(Object.values(puppet.bones), s.bone), end: s.end }
      : { target: counterpart(Object.values(puppet.targets), s.target) }
  if (input.kind === 'channel') return { kind: 'channel', channel: otherAddress(puppet, input.channel) }
  if (input.kind === 'speed') return { kind: 'speed', bone: counterpart(Object.values(puppet.bones), input.bone) }
  return { ...input, from: spot(input.from), to: spot(input.to) }
}

const inputSign = (puppet: Puppet, input: Input): 1 | -1 =>
  input.kind === 'channel' ? mirrorSign(puppet, input.channel) : input.kind === 'distance' ? 1 : -1

/** Distance, px of the canvas, within which a point lies where the mirror image of another does. */
const NEAR = 8

/** Moved points on the other side: those that lie where the mirror images of these do; null where there are none. */
function mirroredPoints(puppet: Puppet, change: ChangeOf<'points'>): Change | null {
  const other = otherPart(puppet, change.part)
  const art = puppet.parts[other]?.art[puppet.view] ?? ''
  const [own, there] = [puppet.drawings[change.drawing], puppet.drawings[art]]
  const map = acrossTo(puppet, change.part, other)
  if (!own || !there || !map) return null
  const places = new Map(
    own.shapes.flatMap((s) =>
      s.paths.flatMap((p) => p.ids.map((id, k) => [id, { x: p.anchors[2 * k]!, y: p.anchors[2 * k + 1]! }] as const)),
    ),
  )
  const all = there.shapes.flatMap((s) =>
    s.paths.flatMap((p) => p.ids.map((id, k) => ({ id, x: p.anchors[2 * k]!, y: p.anchors[2 * k + 1]! }))),
  )
  const isSame = own === there
  const out: { id: number; by: number[]; width: number }[] = []
  change.ids.forEach((id, k) => {
    const at = places.get(id)
    if (!at) return
    const image = apply(map, at)
    const near = isSame
      ? { id, far: 0 }
      : all.map((p) => ({ id: p.id, far: Math.hypot(p.x - image.x, p.y - image.y) })).sort((a, b) => a.far - b.far)[0]
    if (!near || near.far > NEAR || out.some((o) => o.id === near.id)) return
    const turned = (n: number): number[] => {
      const [x, y] = [change.by[6 * k + n]!, change.by[6 * k + n + 1]!]
      return [map[0] * x + map[2] * y, map[1] * x + map[3] * y]
    }
    // An outline that is drawn the other way round has its handles in and out in each other's place.
    const isTurned = !isSame && isReversed(own, there, map)
    out.push({
      id: near.id,
      by: [...turned(0), ...(isTurned ? [...turned(4), ...turned(2)] : [...turned(2), ...turned(4)])],
      width: change.widths?.[k] ?? 0,
    })
  })
  if (out.length === 0) return null
  const made = { ...change, part: other, drawing: there.id, ids: out.map((o) => o.id), by: out.flatMap((o) => o.by) }
  return change.widths ? { ...made, widths: out.map((o) => o.width) } : made
}

/** Whether the mirror image of an outline runs the other way than the outline there does, told by their turning. */
function isReversed(own: Drawing, there: Drawing, map: Affine): boolean {
  const turning = ({ shapes }: Drawing): number =>
    shapes
      .flatMap((s) => s.paths)
      .reduce((sum, { anchors }) => {
        const n = anchors.length
        let area = 0
        for (let i = 0; i < n; i += 2) area += anchors[i]! * anchors[(i + 3) % n]! - anchors[(i + 2) % n]! * anchors[i + 1]!
        return sum + area
      }, 0)
  const flips = map[0] * map[3] - map[1] * map[2] < 0
  return turning(own) * turning(there) > 0 === flips
}

/** A recorded change on the other side; null where there is nothing to change there. */
export function mirroredChange(puppet: Puppet, change: Change): Change | null {
  if (change.kind === 'points') return mirroredPoints(puppet, change)
  if (change.kind === 'paint' || change.kind === 'width') {
    const part = otherPart(puppet, change.part)
    const drawing = puppet.parts[part]?.art[puppet.view]
    return drawing && puppet.drawings[drawing]?.shapes.some((s) => s.id === change.shape) ? { ...change, part, drawing } : null
  }
  const channel = otherAddress(puppet, change.channel)
  if (change.kind === 'choice') return { ...change, channel, to: mirroredValue(puppet, change.channel, change.to) }
  const isScale = channelOf(puppet, change.channel)?.kind === 'scale'
  return { ...change, channel, by: isScale ? change.by : change.by * mirrorSign(puppet, change.channel) }
}

/** The mirror image of a response, under other ids. */
export function mirroredResponse(puppet: Puppet, response: Response, id: string): Response {
  const signs = response.inputs.map((input) => inputSign(puppet, input))
  const rest = response.inputs.map((input) => (input.kind === 'channel' ? (channelOf(puppet, input.channel)?.rest ?? 0) : 0))
  return {
    ...response,
    id,
    name: otherSide(response.name) ?? `${response.name}, mirrored`,
    inputs: response.inputs.map((input) => otherInput(puppet, input)),
    stops: response.stops.map((stop, k) => ({
      id: `${id}-s${k + 1}`,
      at: stop.at.map((v, n) => (signs[n] === 1 ? v : 2 * rest[n]! - v)),
      changes: stop.changes.flatMap((change) => mirroredChange(puppet, change) ?? []),
    })),
  }
}

/**
 * Mirrors a response to the other side, in place of one of the same inputs and name that is there. One that listens to its own
 * side and the other alike, as a pad does, gets the missing stops of its other half.
 */
export const mirrorResponse = command(
  'response.mirror',
  'Mirror response',
  z.object({ response: ResponseId, id: ResponseId }),
  (puppet, { response, id }) => {
    const source = responseOf(puppet, response)
    const made = mirroredResponse(puppet, source, id)
    if (JSON.stringify(made.inputs) === JSON.stringify(source.inputs)) return addOtherHalf(source, made)
    if (made.stops.every((s) => s.changes.length === 0)) throw new EditError(`Nothing on the other side answers like “${source.name}”.`)
    const there = puppet.responses.findIndex((r) => r.name === made.name && JSON.stringify(r.inputs) === JSON.stringify(made.inputs))
    if (there >= 0) puppet.responses[there] = { ...made, id: puppet.responses[there]!.id }
    else if (puppet.responses.some((r) => r.id === id)) throw new EditError(`There is already a response "${id}".`)
    else puppet.responses.push(made)
  },
)

/** Stops of a mirrored half where there are none yet. */
function addOtherHalf(source: Response, made: Response): void {
  const isAt = (a: readonly number[], b: readonly number[]): boolean => a.every((v, k) => Math.abs(v - b[k]!) < 1e-6)
  const missing = made.stops.filter((m) => !source.stops.some((s) => isAt(s.at, m.at)))
  if (missing.length === 0) throw new EditError(`Both halves of “${source.name}” are recorded already.`)
  source.stops.push(...missing)
}

/**
 * The other side: what a pose, a recorded change or a response is when left and right are swapped. Things find their
 * counterparts by their names, twins by the link to their original; what has none is its own.
 */
import { mirroredValue } from '../kernel/mirrored'
import { z } from 'zod'
import { ResponseId } from '../kernel/ids'
import type { Affine } from '../kernel/numbers'
import type { Change, ChangeOf, Input, InputSpot, Response } from './records'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { apply } from '../maths/geometry/affine'
import { responseOf } from './commands'
import { otherSide, counterpart } from '../kernel/sides'
import { command, type Host } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { otherPart, acrossTo } from '../parts/mirror'
import { drawingBy } from '../artwork/art'

function otherInput(puppet: Puppet, input: Input, { otherAddress }: Host): Input {
  const spot = (s: InputSpot): InputSpot =>
    'bone' in s
      ? { bone: counterpart(Object.values(puppet.bones), s.bone), end: s.end }
      : { target: counterpart(Object.values(puppet.targets), s.target) }
  if (input.kind === 'channel') return { kind: 'channel', channel: otherAddress(puppet, input.channel) }
  if (input.kind === 'speed') return { kind: 'speed', bone: counterpart(Object.values(puppet.bones), input.bone) }
  return { ...input, from: spot(input.from), to: spot(input.to) }
}

const inputSign = (puppet: Puppet, input: Input, { mirrorSign }: Host): 1 | -1 =>
  input.kind === 'channel' ? mirrorSign(puppet, input.channel) : input.kind === 'distance' ? 1 : -1

/** Distance, px of the canvas, within which a point lies where the mirror image of another does. */
const NEAR = 8

/** Moved points on the other side: those that lie where the mirror images of these do; null where there are none. */
function mirroredPoints(puppet: Puppet, change: ChangeOf<'points'>): Change | null {
  const other = otherPart(puppet, change.part)
  const art = puppet.parts[other]?.art[puppet.view] ?? ''
  const [own, there] = [puppet.drawings[change.drawing], drawingBy(puppet, art)]
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
function mirroredChange(puppet: Puppet, change: Change, host: Host): Change | null {
  const { channelOf, otherAddress, mirrorSign } = host
  if (change.kind === 'points') return mirroredPoints(puppet, change)
  if (change.kind === 'paint' || change.kind === 'width') {
    const part = otherPart(puppet, change.part)
    const drawing = drawingBy(puppet, puppet.parts[part]?.art[puppet.view] ?? '')
    return drawing?.shapes.some((s) => s.id === change.shape) ? { ...change, part, drawing: drawing.id } : null
  }
  const channel = otherAddress(puppet, change.channel)
  const sign = mirrorSign(puppet, change.channel)
  if (change.kind === 'choice')
    return { ...change, channel, to: mirroredValue(change.to, sign, channelOf(puppet, change.channel)?.rest ?? 0) }
  const isScale = channelOf(puppet, change.channel)?.kind === 'scale'
  return { ...change, channel, by: isScale ? change.by : change.by * sign }
}

/** The mirror image of a response, under other ids. */
export function mirroredResponse(puppet: Puppet, response: Response, id: string, host: Host): Response {
  const { channelOf } = host
  const signs = response.inputs.map((input) => inputSign(puppet, input, host))
  const rest = response.inputs.map((input) => (input.kind === 'channel' ? (channelOf(puppet, input.channel)?.rest ?? 0) : 0))
  return {
    ...response,
    id,
    name: otherSide(response.name) ?? `${response.name}, mirrored`,
    inputs: response.inputs.map((input) => otherInput(puppet, input, host)),
    stops: response.stops.map((stop, k) => ({
      id: `${id}-s${k + 1}`,
      at: stop.at.map((v, n) => (signs[n] === 1 ? v : 2 * rest[n]! - v)),
      changes: stop.changes.flatMap((change) => mirroredChange(puppet, change, host) ?? []),
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
  (puppet, { response, id }, host) => {
    const source = responseOf(puppet, response)
    const made = mirroredResponse(puppet, source, id, host)
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

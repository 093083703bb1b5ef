/** Inputs of responses, read from a frame in the middle of being evaluated. */
import { boneOfChannel, isLate } from './order'
import type { Input, InputSpot } from './records'
import type { Puppet } from '../puppet/schema'
import type { Vec } from '../kernel/numbers'
import { toDegrees } from '../maths/geometry/affine'
import type { BoneTable } from '../bones/table'
import type { ConstraintTable } from '../constraints/solve'
import { slotOfChannel, type Slots } from '../kernel/slots'
import type { ChannelLookup } from '../kernel/command'
import type { Responding as Frame } from './frame'

/** An input, compiled. */
export interface RigInput {
  readonly rest: number
  /** Writes what it is now into `inputValues` of the frame, at a place: a number that is returned would be an object of its own. */
  read(frame: Frame, at: number): void
}

interface Tables {
  readonly puppet: Puppet
  readonly slots: Slots
  readonly bones: BoneTable
  readonly constraints: ConstraintTable
}

/** Makes an input ready; null where nothing answers to it any more. */
export function compileInput(tables: Tables, input: Input): RigInput | null {
  const { puppet, bones } = tables
  if (input.kind === 'channel') return channelInput(tables, input)
  if (input.kind === 'speed') {
    const bone = bones.index.get(input.bone)
    return bone === undefined ? null : { rest: 0, read: (frame, at) => void (frame.inputValues[at] = frame.speeds[bone]!) }
  }
  const [from, to] = [spotReader(tables, input.from), spotReader(tables, input.to)]
  const rest = restOfInput(puppet, input, (_, address) => tables.slots.channelOf(address))
  if (!from || !to || rest === null) return null
  if (input.kind === 'distance')
    return {
      rest,
      read(frame, at) {
        from(frame, A)
        to(frame, B)
        frame.inputValues[at] = Math.hypot(B[0] - A[0], B[1] - A[1])
      },
    }
  const first = directionAtRest(puppet, input.from, input.to)
  return {
    rest: 0,
    read(frame, at) {
      from(frame, A)
      to(frame, B)
      frame.inputValues[at] = wrapped(toDegrees(Math.atan2(A[1] - B[1], B[0] - A[0])) - first)
    },
  }
}

const A: [number, number] = [0, 0]
const B: [number, number] = [0, 0]

/** Degrees from -180 to 180. */
const wrapped = (degrees: number): number => degrees - 360 * Math.round(degrees / 360)

function channelInput({ puppet, slots, bones }: Tables, input: Extract<Input, { kind: 'channel' }>): RigInput | null {
  const channel = slots.channelOf(input.channel)
  const slot = channel ? slotOfChannel(slots, channel) : -1
  if (!channel || slot < 0) return null
  const { min, max, rest, kind } = channel
  const bone = boneOfChannel(input.channel)
  const b = bone === null ? -1 : bones.index.get(bone)!
  if (b >= 0 && isLate(puppet, input)) {
    const isLength = channel.field === 'length'
    return {
      rest,
      read: ({ skeleton, inputValues }, at) => void (inputValues[at] = isLength ? skeleton.length[b]! : skeleton.angle[b]!),
    }
  }
  const isChoice = kind === 'choice'
  return {
    rest,
    read({ values: answers, inputValues }, at) {
      const value = Math.min(max, Math.max(min, answers[slot]!))
      inputValues[at] = isChoice ? Math.round(value) : value
    },
  }
}

/** Writes where a spot is. */
type SpotReader = (frame: Frame, out: [number, number]) => void

function spotReader({ bones, constraints }: Tables, spot: InputSpot): SpotReader | null {
  if ('target' in spot) {
    const t = constraints.targets.index.get(spot.target)
    return t === undefined
      ? null
      : ({ targets }, out) => {
          out[0] = targets[3 * t]!
          out[1] = targets[3 * t + 1]!
        }
  }
  const b = bones.index.get(spot.bone)
  if (b === undefined) return null
  const ends = spot.end === 'start' ? bones.start : bones.end
  const [x, y] = [ends[2 * b]!, ends[2 * b + 1]!]
  return ({ bones: m }, out) => {
    out[0] = m[6 * b]! * x + m[6 * b + 2]! * y + m[6 * b + 4]!
    out[1] = m[6 * b + 1]! * x + m[6 * b + 3]! * y + m[6 * b + 5]!
  }
}

function spotAtRest(puppet: Puppet, spot: InputSpot): Vec | null {
  if ('target' in spot) return puppet.targets[spot.target]?.at ?? null
  return puppet.bones[spot.bone]?.[spot.end] ?? null
}

function directionAtRest(puppet: Puppet, from: InputSpot, to: InputSpot): number {
  const [a, b] = [spotAtRest(puppet, from)!, spotAtRest(puppet, to)!]
  return toDegrees(Math.atan2(a.y - b.y, b.x - a.x))
}

/** The value of an input at rest; null where it listens to what is not there. */
export function restOfInput(puppet: Puppet, input: Input, channelOf: ChannelLookup): number | null {
  if (input.kind === 'channel') return channelOf(puppet, input.channel)?.rest ?? null
  if (input.kind === 'speed') return puppet.bones[input.bone] ? 0 : null
  const [a, b] = [spotAtRest(puppet, input.from), spotAtRest(puppet, input.to)]
  if (!a || !b) return null
  return input.kind === 'direction' ? 0 : Math.hypot(b.x - a.x, b.y - a.y)
}

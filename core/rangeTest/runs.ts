/**
 * What a range test puts a puppet through: each bone through its limits, each control through its range, the corners of every two bones
 * that follow each other, every kept mood and sound, every alternate, random poses of everything, and every clip.
 */
import { boneChannel } from '../bones/channels'
import type { Bone } from '../bones/records'
import { bonesInOrder } from '../bones/tree'
import { rangeAlong, axesOf, controlChannel, stepped, type Control, isForPeople, type Range } from '../controls/records'
import { partChannel } from '../parts/channels'
import { partOf } from '../parts/lookup'
import { seededRandom } from '../maths/solve/random'
import { poseInClip } from '../playing/clips'
import type { Puppet } from '../puppet/schema'
import { randomPose } from '../reports/randomPose'

export type RunKind = 'bone' | 'control' | 'pair' | 'expression' | 'alternate' | 'random' | 'clip'

/** Kinds as headings, in the order in which they are tried. */
export const RUN_KINDS: readonly { readonly kind: RunKind; readonly label: string }[] = [
  { kind: 'bone', label: 'Joints' },
  { kind: 'control', label: 'Controls' },
  { kind: 'pair', label: 'Neighbours' },
  { kind: 'expression', label: 'Faces' },
  { kind: 'alternate', label: 'Alternates' },
  { kind: 'random', label: 'Random poses' },
  { kind: 'clip', label: 'Clips' },
]

export type Values = Readonly<Record<string, number>>

export interface TriedPose {
  /** Degrees, value of a control, seconds, or its number. */
  readonly at: number
  /** `at` in words. */
  readonly said: string
  readonly values: Values
}

/** Poses that belong together. */
export interface Run {
  readonly id: string
  readonly kind: RunKind
  readonly name: string
  /** What is tried, as the rig has it. */
  readonly subject: { readonly kind: 'bone' | 'control' | 'pose' | 'part' | 'clip' | 'puppet'; readonly id: string }
  readonly poses: readonly TriedPose[]
  /** The channel that is turned or slid, where it is one. */
  readonly channel: string | null
  /** The pose between two that follow each other, at a share; null where they have nothing to do with each other. */
  readonly between: ((k: number, share: number) => Values) | null
  /** Seconds from pose to pose, where it is a matter of time. */
  readonly seconds: number | null
}

export interface RunOptions {
  /** Random poses. */
  readonly poses: number
  readonly seed: number
}

/** Poses of a bone from limit to limit, and of a control from end to end. */
const BONE_STEPS = 13
const CONTROL_STEPS = 9
/** How far a bone without limits is turned, degrees. */
const UNLIMITED = 60
/** Pictures a second at which clips are looked at. */
const CLIP_RATE = 12

const spread = (min: number, max: number, count: number): number[] =>
  Array.from({ length: count }, (_, k) => min + ((max - min) * k) / (count - 1))

const rounded = (value: number): number => Math.round(100 * value) / 100

/** From one set of values to another, at a share of the way. */
function mixed(a: Values, b: Values, share: number): Values {
  const out: Record<string, number> = {}
  for (const address of new Set([...Object.keys(a), ...Object.keys(b)]))
    out[address] = (a[address] ?? 0) + share * ((b[address] ?? 0) - (a[address] ?? 0))
  return out
}

const throughPoses =
  (poses: readonly TriedPose[]) =>
  (k: number, share: number): Values =>
    mixed(poses[k]?.values ?? {}, poses[k + 1]?.values ?? {}, share)

/** Poses that have nothing to do with each other. */
const oneByOne = (id: string, kind: RunKind, name: string, subject: Run['subject'], poses: readonly TriedPose[]): Run => ({
  ...{ id, kind, name, subject, poses, channel: null, between: null, seconds: null },
})

const limitsOf = ({ limits: { min, max } }: Bone): { min: number; max: number } => ({ min: min ?? -UNLIMITED, max: max ?? UNLIMITED })

function boneRun(bone: Bone): Run[] {
  const { min, max } = limitsOf(bone)
  if (min >= max) return []
  const channel = boneChannel(bone.id, 'angle')
  const poses = spread(min, max, BONE_STEPS).map((at): TriedPose => ({
    at: rounded(at),
    said: `${Math.round(at)}°`,
    values: { [channel]: at },
  }))
  return [
    {
      ...{ id: `bone/${bone.id}`, kind: 'bone', name: bone.name, subject: { kind: 'bone', id: bone.id }, poses, channel },
      ...{ between: throughPoses(poses), seconds: null },
    },
  ]
}

/** Along one axis, with the other at rest; a pad's corners are a run of their own. */
function controlRuns(control: Control): Run[] {
  const subject = { kind: 'control' as const, id: control.id }
  const runs = axesOf(control).map((axis): Run => {
    const range = rangeAlong(control, axis)
    const channel = controlChannel(control, axis)
    const values = [...new Set(spread(range.min, range.max, CONTROL_STEPS).map((v) => stepped(control, range, v)))]
    const poses = values.map((at): TriedPose => ({ at: rounded(at), said: String(rounded(at)), values: { [channel]: at } }))
    const isStepped = control.step > 0 || control.kind === 'toggle'
    const way = axis === 'x' ? ', across' : axis === 'y' ? ', up and down' : ''
    return {
      ...{ id: `control/${control.id}/${axis}`, kind: 'control', name: `${control.name}${way}`, subject, poses, channel },
      ...{ between: isStepped ? null : throughPoses(poses), seconds: null },
    }
  })
  if (control.kind !== 'pad' || !control.up) return runs
  const ends = ({ min, max }: Range): number[] => [min, max]
  const corners = ends(control.range).flatMap((x) =>
    ends(control.up ?? control.range).map((y, k): TriedPose => {
      const values = { [controlChannel(control, 'x')]: x, [controlChannel(control, 'y')]: y }
      return { at: k, said: `${rounded(x)}, ${rounded(y)}`, values }
    }),
  )
  return [...runs, oneByOne(`control/${control.id}/corners`, 'control', `${control.name}, corners`, subject, corners)]
}

/** Every bone with the one that it hangs from, both at their limits. */
function pairRun(puppet: Puppet, bone: Bone): Run[] {
  const above = bone.parent === null ? undefined : puppet.bones[bone.parent]
  if (!above) return []
  const [a, b] = [limitsOf(above), limitsOf(bone)]
  const poses = [a.min, a.max].flatMap((one) =>
    [b.min, b.max].map((other, k): TriedPose => ({
      ...{ at: k, said: `${Math.round(one)}° and ${Math.round(other)}°` },
      values: { [boneChannel(above.id, 'angle')]: one, [boneChannel(bone.id, 'angle')]: other },
    })),
  )
  return [oneByOne(`pair/${bone.id}`, 'pair', `${above.name} and ${bone.name}`, { kind: 'bone', id: bone.id }, poses)]
}

function expressionRuns({ poses }: Puppet): Run[] {
  return poses
    .filter(({ face }) => face !== null)
    .map(({ id, name, values }) => oneByOne(`pose/${id}`, 'expression', name, { kind: 'pose', id }, [{ at: 0, said: name, values }]))
}

function alternateRuns(puppet: Puppet): Run[] {
  return Object.values(puppet.parts)
    .filter(({ swap }) => swap !== null)
    .map((part) => {
      const poses = part.children.map((child, k): TriedPose => {
        const { name, alternate } = partOf(puppet, child)
        return { at: k, said: name, values: { [partChannel(part.id, 'alternate')]: alternate } }
      })
      return oneByOne(`part/${part.id}`, 'alternate', part.name, { kind: 'part', id: part.id }, poses)
    })
    .filter(({ poses }) => poses.length > 1)
}

function randomRun(puppet: Puppet, { poses: count, seed }: RunOptions): Run[] {
  const random = seededRandom(seed)
  const poses = Array.from({ length: count }, (_, k): TriedPose => ({
    at: k + 1,
    said: `no. ${k + 1}`,
    values: randomPose(puppet, random),
  }))
  return poses.some(({ values }) => Object.keys(values).length > 0)
    ? [oneByOne('random', 'random', 'Everything at random', { kind: 'puppet', id: puppet.id }, poses)]
    : []
}

function clipRuns(puppet: Puppet): Run[] {
  return puppet.clips.map((clip): Run => {
    const count = Math.max(2, Math.round(clip.length * CLIP_RATE) + 1)
    const times = spread(0, clip.length, count)
    const at = (time: number): Values => poseInClip(puppet, clip, time)
    const poses = times.map((time): TriedPose => ({ at: rounded(time), said: `${time.toFixed(2)} s`, values: at(time) }))
    const isHeld =
      clip.step > 1 || clip.layers.some(({ tracks }) => Object.values(tracks).some(({ keys }) => keys.some(({ way }) => way === 'stepped')))
    const seconds = clip.length / (count - 1)
    return {
      ...{ id: `clip/${clip.id}`, kind: 'clip', name: clip.name, subject: { kind: 'clip', id: clip.id }, poses, channel: null, seconds },
      between: isHeld ? null : (k, share) => at((k + share) * seconds),
    }
  })
}

/** All runs of a puppet in its present view. */
export function rangeRuns(puppet: Puppet, options: RunOptions): Run[] {
  const bones = bonesInOrder(puppet)
  return [
    ...bones.flatMap(boneRun),
    ...puppet.controls.filter(isForPeople).flatMap(controlRuns),
    ...bones.flatMap((bone) => pairRun(puppet, bone)),
    ...expressionRuns(puppet),
    ...alternateRuns(puppet),
    ...randomRun(puppet, options),
    ...clipRuns(puppet),
  ]
}

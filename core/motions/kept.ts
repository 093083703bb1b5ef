/**
 * Clips that people kept as ready motions, to be acted by other puppets. What moves is named by its role (what a bone is, what a control
 * is for), else by its name; lengths are shares of the length of a leg, controls shares of what they can do, turns degrees from rest. Arms
 * that were drawn spread or hanging come to lie as they lay in the puppet that the motion was made on.
 */
import { z } from 'zod'
import { scaledHandles } from '../clips/edits'
import { newClip, newLayer } from '../clips/new'
import { Beyond, Key, LayerMode, type Clip, type ClipLayer, type Track } from '../clips/records'
import { weightChannel } from '../clips/layers'
import { clampTo, type Channel } from '../kernel/channel'
import { finite, Name } from '../kernel/numbers'
import { otherSide } from '../kernel/sides'
import { nth } from '../kernel/sure'
import { channelOf } from '../puppet/channels'
import type { Puppet } from '../puppet/schema'
import { bodyOf, directionOf, type Body } from './body'
import type { Baked, Manner } from './bake'
import { castOf, Who } from './cast'

const KeptTrack = z.object({
  who: Who,
  field: z.string().max(40),
  keys: z.array(Key).min(1).max(10_000),
  before: Beyond,
  after: Beyond,
})

/** A clip that was kept as a ready motion. */
export const KeptMotion = z.object({
  kind: z.literal('motion'),
  id: z.string().min(1).max(64),
  name: Name,
  length: z.number().min(0.01).max(3600),
  rate: z.number().min(1).max(240),
  step: z.number().int().min(1).max(24),
  /** How bones of arms lie at rest, degrees from hanging down outwards, by role. */
  rests: z.record(z.string(), finite),
  layers: z
    .array(z.object({ name: Name, mode: LayerMode, weight: z.number().min(0).max(1), tracks: z.array(KeptTrack).max(5000) }))
    .min(1)
    .max(50),
})
export type KeptMotion = z.infer<typeof KeptMotion>

const ARMS = ['upper-arm', 'forearm', 'hand'] as const
const SIDES = ['left', 'right'] as const

/** How the bones of arms lie at rest, each seen from the one above it: degrees outwards, the upper arm from hanging down. */
function restsOf({ bones, limbs }: Body): Record<string, number> {
  const out: Record<string, number> = {}
  for (const side of SIDES) {
    const outwards = limbs.get(`arm:${side}`)?.outwards ?? 1
    let above = -90
    for (const role of ARMS) {
      const bone = bones.get(`${role}:${side}`)
      if (!bone) break
      const direction = directionOf(bone)
      const from = (direction - above) * outwards
      out[`${role}:${side}`] = from - 360 * Math.round(from / 360)
      above = direction
    }
  }
  return out
}

/** What a value counts in, so that it means the same on another body: a factor, and what is taken off before. */
interface Measure {
  readonly off: number
  readonly by: number
}

/** Values of a channel as shares, and back: on one body divided by this measure, on the other multiplied. */
function measureOf(channel: Channel, body: Body): Measure {
  if (channel.family === 'control') {
    const reach = Math.max(channel.max - channel.rest, channel.rest - channel.min)
    return { off: channel.rest, by: Number.isFinite(reach) && reach > 0 ? reach : 1 }
  }
  return { off: 0, by: channel.unit === 'px' ? body.leg : 1 }
}

const scaledKey = (key: Key, by: number, off: number): Key => ({
  ...key,
  value: key.value * by + off,
  handles: key.handles && scaledHandles(key.handles, 1, by),
})

/** Whether a channel goes along: choices of views and drawings, and corners of cages, mean nothing on another puppet. */
const isPortable = ({ family, kind }: Channel): boolean =>
  kind !== 'choice' && (family === 'bone' || family === 'control' || family === 'target' || family === 'part')

/** Takes a clip down as a motion that others can act; what only this puppet can do is left out. */
export function keepMotion(puppet: Puppet, clip: Clip, id: string): KeptMotion {
  const [body, cast] = [bodyOf(puppet), castOf(puppet)]
  const acting = clip.layers.filter((layer) => !layer.muted)
  const kept = (channel: string, track: Track): KeptMotion['layers'][number]['tracks'] => {
    const at = acting.findIndex((layer) => weightChannel(layer.id) === channel)
    if (at >= 0)
      return [{ ...track, keys: track.keys.map(loosed), who: { family: 'layer', role: null, name: String(at) }, field: 'weight' }]
    const known = channelOf(puppet, channel)
    const who = known && isPortable(known) ? cast.who(known) : null
    if (!known || !who) return []
    const { off, by } = measureOf(known, body)
    const outwards = sideways(body, who)
    return [
      { ...track, who, field: known.field, keys: track.keys.map((key) => loosed(scaledKey(key, outwards / by, (-off * outwards) / by))) },
    ]
  }
  const layers = acting.map(({ name, mode, weight, tracks }) => ({
    name,
    mode,
    weight,
    tracks: Object.entries(tracks).flatMap(([channel, track]) => kept(channel, track)),
  }))
  const { name, length, rate, step } = clip
  return { kind: 'motion', id, name, length, rate, step, rests: restsOf(body), layers }
}

/** Poses on the line belong to the clip that they hung in. */
const loosed = (key: Key): Key => ({ ...key, pose: null })

/** Turns of an arm count outwards, whichever side of the picture it is on; all others as they are. */
function sideways(body: Body, { family, role }: Who): 1 | -1 {
  const [name, side] = (role ?? '').split(':')
  return family === 'bone' && (ARMS as readonly string[]).includes(name ?? '') ? (body.limbs.get(`arm:${side}`)?.outwards ?? 1) : 1
}

/** A name or a role on the other side; what has no side stays. */
const turned = (name: string): string => otherSide(name) ?? name

/** Makes a clip of a kept motion for a puppet; without any key where the puppet has nothing that it moves. */
export function bakeKept(puppet: Puppet, motion: KeptMotion, { strength, speed, mirrored }: Manner, id: string): Baked {
  const [body, cast] = [bodyOf(puppet), castOf(puppet)]
  const rests = restsOf(body)
  const missing = new Set<string>()
  const ids = motion.layers.map((_, k) => (k === 0 ? `${id}-base` : `${id}-layer-${k}`))
  const timed = (key: Key): Key => ({
    ...key,
    time: key.time / speed,
    handles: key.handles && scaledHandles(key.handles, 1 / speed, 1),
  })
  const placed = ({ who, field, keys, before, after }: KeptMotion['layers'][number]['tracks'][number]): [string, Track] | null => {
    if (who.family === 'layer') {
      const layer = ids[Number(who.name)]
      return layer === undefined ? null : [weightChannel(layer), { keys: keys.map(timed), before, after }]
    }
    const wanted = mirrored ? { ...who, role: who.role && turned(who.role), name: turned(who.name) } : who
    const channel = cast.find(wanted, field)
    if (!channel) return (missing.add(wanted.role?.split(':')[0] ?? wanted.name), null)
    const { off, by } = measureOf(channel, body)
    const outwards = sideways(body, wanted)
    // An arm that rests elsewhere goes by so much farther.
    const lies =
      wanted.role !== null && field === 'angle'
        ? (motion.rests[who.role ?? ''] ?? 0) - (rests[wanted.role] ?? motion.rests[who.role ?? ''] ?? 0)
        : 0
    const isRatio = channel.kind === 'scale'
    const value = (v: number): number => (isRatio ? 1 + (v - 1) * strength : (v * strength + lies) * outwards * by + off)
    const sign = mirrored && turnsRound(channel, wanted) ? -1 : 1
    const change = (isRatio ? strength : strength * outwards * by) * sign
    const fitted = (key: Key): Key => {
      const scaled = scaledKey(timed(key), change, 0)
      return { ...scaled, value: clampTo(channel, isRatio ? value(key.value) : off + (value(key.value) - off) * sign) }
    }
    return [channel.address, { keys: keys.map(fitted), before, after }]
  }
  const layers = motion.layers.map(({ name, mode, weight, tracks }, k): ClipLayer => ({
    ...newLayer(nth(ids, k), name, mode),
    weight,
    tracks: Object.fromEntries(tracks.flatMap((track) => [placed(track)].filter((t) => t !== null))),
  }))
  const length = Math.max(0.1, motion.length / speed)
  return { clip: newClip(id, motion.name, { length, rate: motion.rate, step: motion.step, layers }), missing: [...missing] }
}

/** What of a mirrored motion goes the other way: turns and shifts in the middle of the body; of arms it follows from the side. */
const turnsRound = ({ family, field }: Channel, { role }: Who): boolean =>
  /^(turn|gaze)\.x$/.test(role ?? '') ||
  ((family === 'bone' || family === 'part' || family === 'target') &&
    (field === 'x' || (field === 'angle' && !ARMS.some((arm) => role?.startsWith(arm)))))

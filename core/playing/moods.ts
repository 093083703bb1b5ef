/**
 * Moods and sounds on one face. A mood is posed: it acts on all of the face. A sound is played over it: it says how far the mouth is
 * open, and leaves of the mood what it has no need of. Neither resets the other; when the sound is over, the mood is as it was.
 */
import { channelOf } from '../puppet/channels'
import { controlChannel, rangeAlong, valueAtShare, type Control } from '../controls/records'
import type { Puppet } from '../puppet/schema'
import { VISEMES, visemeIn, type Viseme } from '../speech/visemes'
import { smoothstep } from '../maths/solve/smoothstep'
import { MOUTH_FORMS, type Shown } from '../speech/track'
import { clampTo, type Channel } from '../kernel/channel'
import { sure } from '../kernel/sure'

/** How much of a mood's mouth shows through each sound: all of it in silence, nothing of it where the lips have to meet. */
const LOOSE: Readonly<Record<Viseme, number>> = {
  rest: 1,
  mbp: 0,
  fv: 0.15,
  th: 0.4,
  l: 0.5,
  d: 0.4,
  k: 0.6,
  ch: 0.3,
  w: 0.2,
  oo: 0.3,
  ee: 0.6,
  aa: 0.6,
}

/** Values of the channels that sounds move, while one sound goes over into the next, over a pose. */
export function soundValues(puppet: Puppet, shown: Shown): Record<string, number> {
  const sounds = soundsOf(puppet)
  const share = shown.before === null ? 1 : smoothstep(shown.way)
  const mixed = (of: (viseme: Viseme) => number): number => {
    const to = of(shown.viseme)
    return share === 1 ? to : (1 - share) * of(sure(shown.before)) + share * to
  }
  const loose = mixed((v) => LOOSE[v])
  const out: Record<string, number> = {}
  for (const { channel, at } of sounds) {
    const wanted = channel.kind === 'choice' ? at(shown.viseme) : mixed(at)
    const mood = (puppet.pose[channel.address] ?? channel.rest) - channel.rest
    out[channel.address] = clampTo(channel, channel.kind === 'choice' ? wanted : wanted + loose * mood)
  }
  return out
}

interface Sounded {
  readonly channel: Channel
  /** Its value in a sound without any mood. */
  readonly at: (viseme: Viseme) => number
}

const known = new WeakMap<Puppet, readonly Sounded[]>()

/** The channels that sounds move, found once for a puppet: a line asks on every picture. */
function soundsOf(puppet: Puppet): readonly Sounded[] {
  const sounds = known.get(puppet) ?? soundedBy(puppet)
  known.set(puppet, sounds)
  return sounds
}

/** Channels that sounds move: those of the kept sounds; and controls of a mouth, as far as no kept sound has to do with them. */
function soundedBy(puppet: Puppet): Sounded[] {
  const kept = new Map(VISEMES.flatMap((v) => puppet.poses.filter((p) => p.face === v).map((p) => [v, p.values] as const)))
  const addresses = new Set([...kept.values()].flatMap((values) => Object.keys(values)))
  const out = [...addresses].flatMap((address): Sounded[] => {
    const channel = channelOf(puppet, address)
    if (!channel) return []
    const at = (viseme: Viseme): number => {
      const known = visemeIn((v) => kept.has(v), viseme)
      // A closed mouth that was not kept is the mouth at rest, not the nearest that was; and rest is never another shape.
      const isRest = known === null || (known !== viseme && (viseme === 'rest' || (isClosed(viseme) && !isClosed(known))))
      return isRest ? channel.rest : (sure(kept.get(known))[address] ?? channel.rest)
    }
    return [{ channel, at }]
  })
  for (const control of puppet.controls) {
    const channel = control.voice && channelOf(puppet, controlChannel(control))
    if (channel && !addresses.has(channel.address)) out.push({ channel, at: (viseme) => voiced(control, viseme) })
  }
  return out
}

const isClosed = (viseme: Viseme): boolean => viseme === 'rest' || viseme === 'mbp'

/**
 * The value of a control of a mouth in a sound: from rest up for what only grows, to both sides for how wide it is. How far it is open
 * goes from wholly closed to wholly open, wherever between it rests: a mouth that is drawn open closes where the lips have to meet.
 */
export function voiced(control: Control, viseme: Viseme): number {
  const range = rangeAlong(control, 'value')
  const share = MOUTH_FORMS[viseme][sure(control.voice)]
  if (viseme === 'rest' || control.voice !== 'open') return valueAtShare(range, share)
  return range.min + share * (range.max - range.min)
}

/** What one sound looks like over a pose, held still. */
export const heldSound = (puppet: Puppet, viseme: Viseme): Record<string, number> => soundValues(puppet, { viseme, before: null, way: 1 })

/** Commands on the sounds of clips, and on the lines that layers say. */
import { z } from 'zod'
import { ClipId, LayerId, SoundId } from '../kernel/ids'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { clipOf, layerOf } from './lookup'
import { SoundPiece, Spoken, type Clip } from './records'

/** A sound of a clip. Throws EditError where there is none. */
export function soundOf(clip: Clip, id: string): SoundPiece {
  const found = clip.sounds.find((sound) => sound.id === id)
  if (!found) throw new EditError(`The clip ${clip.name} has no sound "${id}".`)
  return found
}

/** Puts a sound into a clip. */
export const addSound = command('sound.add', 'Add sound', z.object({ clip: ClipId, sound: SoundPiece }), (puppet, { clip: id, sound }) => {
  const clip = clipOf(puppet, id)
  refuseBeyond(sound)
  clip.sounds.push(sound)
})

/** Changes when a sound is heard, which stretch of it, how loud, and what it is called. */
export const setSound = command(
  'sound.set',
  'Change sound',
  z.object({
    clip: ClipId,
    sound: SoundId,
    ...SoundPiece.pick({ name: true, at: true, from: true, length: true, volume: true, muted: true }).partial().shape,
  }),
  (puppet, { clip: id, sound: which, ...given }) => {
    const clip = clipOf(puppet, id)
    const sound = soundOf(clip, which)
    Object.assign(sound, Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)))
    refuseBeyond(sound)
  },
)

/** Takes a sound out of a clip. */
export const deleteSound = command(
  'sound.delete',
  'Delete sound',
  z.object({ clip: ClipId, sound: SoundId }),
  (puppet, { clip: id, sound }) => {
    const clip = clipOf(puppet, id)
    clip.sounds.splice(clip.sounds.indexOf(soundOf(clip, sound)), 1)
  },
)

/** Cuts a sound in two at a moment; both parts are heard as the whole was. */
export const splitSound = command(
  'sound.split',
  'Split sound',
  z.object({ clip: ClipId, sound: SoundId, time: z.number(), id: SoundId }),
  (puppet, { clip: id, sound: which, time, id: rest }) => {
    const clip = clipOf(puppet, id)
    const sound = soundOf(clip, which)
    const before = time - sound.at
    if (before < LEAST || before > sound.length - LEAST) throw new EditError('Look at a moment within the sound: it is split there.')
    const after = { ...sound, id: rest, at: time, from: sound.from + before, length: sound.length - before }
    sound.length = before
    clip.sounds.splice(clip.sounds.indexOf(sound) + 1, 0, after)
  },
)

/** Says what a layer says. Its keys are others' work: they are set beside it. */
export const setSpoken = command(
  'layer.say',
  'Change what is said',
  z.object({ clip: ClipId, layer: LayerId, spoken: Spoken.nullable() }),
  (puppet, { clip, layer, spoken }) => {
    if (spoken) refuseDisorder(spoken)
    layerOf(clipOf(puppet, clip), layer).spoken = spoken
  },
)

/** The shortest piece of a sound, seconds. */
export const LEAST = 0.01

function refuseBeyond({ name, from, length, duration }: SoundPiece): void {
  if (from + length > duration + 1e-6) throw new EditError(`“${name}” ends after ${duration.toFixed(2)} s: no more of it can be heard.`)
}

function refuseDisorder({ cues, duration }: Spoken): void {
  const isFine = cues[0]?.at === 0 && cues.every(({ at }, k) => at <= duration && (k === 0 || at > (cues[k - 1]?.at ?? 0)))
  if (!isFine) throw new EditError('Mouth shapes must come one after the other, from the beginning of the line to its end.')
}

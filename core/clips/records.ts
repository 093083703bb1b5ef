/**
 * Clips: short acting, as keys of channels over time. A clip has layers, the first of which is its base; a layer has a track for each
 * channel that it moves; a track has keys in order of time. Poses hang on the line of a clip: a key says which pose it belongs to, if
 * any, so that a whole pose can be moved with all its keys, while each key can still go its own way.
 *
 * Times are seconds; frames exist on the screen alone.
 */
import { z } from 'zod'
import { AssetHash, ChannelAddress, ClipId, HungPoseId, LayerId, MarkerId, PartId, SoundId } from '../kernel/ids'
import { finite, Name } from '../kernel/numbers'
import { VISEMES } from '../speech/visemes'

/** The longest clip, seconds. */
export const LONGEST = 3600
/** Keys nearer to each other than this are one, seconds: less than any frame is long. */
export const SAME_TIME = 1e-4

export const Seconds = z.number().min(0).max(LONGEST)

/**
 * How a curve goes through a key: smooth without going beyond the keys around it, level, in straight lines, as handles have it, or
 * staying as it is until the next key.
 */
export const KeyWay = z.enum(['smooth', 'flat', 'linear', 'stepped', 'custom'])
export type KeyWay = z.infer<typeof KeyWay>

/** A handle seen from its key: seconds away from it, and the change of the value on the way there. */
export const KeyHandle = z.tuple([z.number().min(0).max(LONGEST), finite])
export type KeyHandle = z.infer<typeof KeyHandle>

/** The handles of a custom key. Aligned ones stay on one line when one of them is moved. */
export const KeyHandles = z.object({ arrive: KeyHandle, leave: KeyHandle, aligned: z.boolean() })
export type KeyHandles = z.infer<typeof KeyHandles>

export const Key = z.object({
  time: Seconds,
  value: finite,
  way: KeyWay,
  /** Of a custom key; null for all others. */
  handles: KeyHandles.nullable(),
  /** The pose on the line that it belongs to; null for a key by itself. */
  pose: HungPoseId.nullable(),
})
export type Key = z.infer<typeof Key>

/** What is beyond the first and the last key: the value is held, the curve begins again, or begins again from where it ended. */
export const Beyond = z.enum(['hold', 'repeat', 'offset'])
export type Beyond = z.infer<typeof Beyond>

/** Keys of one channel, in order of time. */
export const Track = z.object({ keys: z.array(Key).min(1).max(10_000), before: Beyond, after: Beyond })
export type Track = z.infer<typeof Track>

/** How a layer lies over those below it: it adds what it differs from rest by, or takes their place. */
export const LayerMode = z.enum(['add', 'override'])
export type LayerMode = z.infer<typeof LayerMode>

/**
 * What a layer says: mouth shapes with the times at which they are reached, seconds from its beginning. The keys of the layer were made
 * from them, and are made anew where a shape is moved, taken away or replaced.
 */
export const Spoken = z.object({
  start: Seconds,
  duration: Seconds,
  /** In order of time, the first at 0. */
  cues: z
    .array(z.object({ viseme: z.enum(VISEMES), at: Seconds, word: z.number().int().min(-1) }))
    .min(1)
    .max(5000),
  /** Name of the set of mouth shapes; empty for the first. */
  mood: z.string().max(120),
  /** The sound that is heard with it, and moves along. */
  sound: SoundId.nullable(),
})
export type Spoken = z.infer<typeof Spoken>

export const ClipLayer = z.object({
  id: LayerId,
  name: Name,
  mode: LayerMode,
  /** Whether it is left out. */
  muted: z.boolean(),
  /** How much of it shows, where no track of its weight says so. */
  weight: z.number().min(0).max(1),
  /** Parts that it is kept to, with all that is in them and the bones that move them; null for everything. */
  parts: z.array(PartId).max(500).nullable(),
  tracks: z.record(ChannelAddress, Track),
  /** The line that it was made for; null for a layer of any other kind. */
  spoken: Spoken.nullable(),
})
export type ClipLayer = z.infer<typeof ClipLayer>

/** A whole pose on the line. Its keys are those that name it; late ones may lie a little beside its time. */
export const HungPose = z.object({ id: HungPoseId, name: Name, time: Seconds })
export type HungPose = z.infer<typeof HungPose>

/** A spot in time with a note. */
export const Marker = z.object({ id: MarkerId, time: Seconds, note: Name })
export type Marker = z.infer<typeof Marker>

/** A piece of sound: a stretch of a recording, heard from a moment on. */
export const SoundPiece = z.object({
  id: SoundId,
  name: Name,
  /** The recording as it came: WAV, MP3, M4A, OGG or FLAC. */
  asset: AssetHash,
  /** Length of all of the recording, seconds. */
  duration: z.number().min(0.001).max(LONGEST),
  /** When it is first heard, seconds from the beginning of the clip. */
  at: Seconds,
  /** What of the recording is left out before, and how long it is heard, seconds. */
  from: Seconds,
  length: z.number().min(0.001).max(LONGEST),
  /** 1 is as loud as it was recorded. */
  volume: z.number().min(0).max(2),
  muted: z.boolean(),
})
export type SoundPiece = z.infer<typeof SoundPiece>

/** Beats of music that a clip is acted to. */
export const Tempo = z.object({ perMinute: z.number().min(10).max(600), first: Seconds })
export type Tempo = z.infer<typeof Tempo>

export const Clip = z.object({
  id: ClipId,
  name: Name,
  length: z.number().min(0.01).max(LONGEST),
  /** Frames a second. */
  rate: z.number().min(1).max(240),
  /** Frames that each picture is held: 2 is what is called on twos. */
  step: z.number().int().min(1).max(24),
  /** What is played round and round; null for all of it. */
  range: z.object({ from: Seconds, to: Seconds }).nullable(),
  /** From the base up. */
  layers: z.array(ClipLayer).min(1).max(50),
  poses: z.array(HungPose).max(2000),
  markers: z.array(Marker).max(500),
  /** Shown beside frames and seconds; null where it is acted to none. */
  tempo: Tempo.nullable(),
  sounds: z.array(SoundPiece).max(100),
  /** What was posed and not keyed: it lies over the tracks until it is kept or dropped, whatever time is looked at. */
  loose: z.record(ChannelAddress, finite),
})
export type Clip = z.infer<typeof Clip>

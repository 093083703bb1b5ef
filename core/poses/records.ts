/** Poses that were kept, and keys that show a value. */
import { z } from 'zod'
import { finite, Name } from '../kernel/numbers'
import { ChannelAddress, CueId, PoseId } from '../kernel/ids'
import { VISEMES } from '../speech/visemes'

/** What a kept pose is on the board of the face: a mood, or the shape of a sound. */
export const FaceRole = z.enum(['mood', ...VISEMES])

export type FaceRole = z.infer<typeof FaceRole>

/** Values of channels that were kept under a name. */
export const SavedPose = z.object({
  id: PoseId,
  name: Name,
  values: z.record(ChannelAddress, finite),
  /** Its place on the board of the face; null where it is a pose like any other. */
  face: FaceRole.nullable(),
})

export type SavedPose = z.infer<typeof SavedPose>

/** A key that shows a value of a channel, as an alternate or a closed lid, while it is down, or until it is pressed again. */
export const Cue = z.object({
  id: CueId,
  /** A letter or digit, pressed with Alt. */
  key: z.string().regex(/^[a-z0-9]$/, 'a key is a small letter or a digit'),
  channel: ChannelAddress,
  value: finite,
  how: z.enum(['hold', 'stay']),
})

export type Cue = z.infer<typeof Cue>

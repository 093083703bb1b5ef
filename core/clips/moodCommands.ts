/** The mood of a stretch: a layer that adds an expression, and goes away again. */
import { z } from 'zod'
import { command } from '../kernel/command'
import { EditError } from '../kernel/errors'
import { ClipId, LayerId, PoseId } from '../kernel/ids'
import { newKey, putKey } from './edits'
import { weightChannel } from './layers'
import { baseOf, clipOf } from './lookup'
import { newLayer } from './new'
import { Seconds } from './records'

/** Share of a stretch, at most, in which a mood comes and in which it goes. */
const MOST_EASE = 0.4

/** Adds an expression over a stretch, on a layer of its own. Its coming and going are keys of the weight of that layer. */
export const addMood = command(
  'clip.mood',
  'Mood of a stretch',
  z.object({ clip: ClipId, layer: LayerId, pose: PoseId, from: Seconds, to: Seconds, ease: z.number().min(0.02).max(10) }),
  (puppet, { clip: id, layer: layerId, pose: poseId, from, to, ease }) => {
    const clip = clipOf(puppet, id)
    const mood = puppet.poses.find((pose) => pose.id === poseId)
    if (!mood) throw new EditError('This mood is not kept any more.')
    if (Object.keys(mood.values).length === 0) throw new EditError(`${mood.name} is the face at rest: it adds nothing.`)
    if (to - from < 0.1) throw new EditError('A mood needs a stretch: its end has to come after its beginning.')
    const layer = newLayer(layerId, `Mood: ${mood.name}`, 'add')
    for (const [address, value] of Object.entries(mood.values)) putKey(layer, address, newKey(from, value))
    clip.layers.push(layer)
    const way = Math.min(ease, MOST_EASE * (to - from))
    const weights = [
      [from, 0],
      [from + way, 1],
      [to - way, 1],
      [to, 0],
    ] as const
    for (const [time, value] of weights) putKey(baseOf(clip), weightChannel(layerId), newKey(time, value))
  },
)

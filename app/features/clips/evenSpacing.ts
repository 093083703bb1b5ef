/** Even spacing of what the motion path shows: between the chosen keys, or between the keys around the moment. */
import { boneOf } from '@marionette/core/bones/lookup'
import { isSameTime, layerOf } from '@marionette/core/clips/lookup'
import type { Clip } from '@marionette/core/clips/records'
import { evenTimes, repace } from '@marionette/core/clips/spacing'
import { edit } from '@marionette/core/kernel/command'
import { addressesOf } from '@marionette/core/puppet/channels'
import { makeFrame } from '@marionette/core/puppet/evaluate'
import type { Puppet } from '@marionette/core/puppet/schema'
import { openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { useSession } from '../../editor/session'
import { stageModel } from '../../editor/stageModel'
import { clipNow, layerNow, setActing, useActing } from './acting'
import { placesAt, spotNow } from './pathSpot'
import { chosenSpan } from './playing'

/** Places that are looked at between two frames: where a spot is fast, its way between them is a curve. */
const FINE = 8

/** Channels that move the selected bone: its own, and those of the bones that lead to it. */
function leadingChannels(puppet: Puppet, bone: string): string[] {
  const out: string[] = []
  for (let id: string | null = bone; id !== null; id = boneOf(puppet, id).parent) out.push(...addressesOf('bone', id))
  return out
}

/** The stretch between the keys around the moment that any of some channels has. */
function stretchAround(clip: Clip, layer: string, channels: readonly string[], time: number): { from: number; to: number } | null {
  const { tracks } = layerOf(clip, layer)
  const times = channels.flatMap((channel) => tracks[channel]?.keys.map((key) => key.time) ?? []).sort((a, b) => a - b)
  const from = times.filter((t) => t <= time || isSameTime(t, time)).at(-1)
  const to = times.find((t) => t > time && !isSameTime(t, time))
  return from === undefined || to === undefined ? null : { from, to }
}

/** Lets the followed spot go the same way with the same distance at every frame. */
export function spaceEvenly(editor: Editor): void {
  const clip = clipNow(editor)
  const model = stageModel(editor).get(openPuppet(editor), false)
  const { selection } = useSession.of(editor).getState()
  const [bone] = selection.kind === 'bone' ? selection.ids : []
  const spot = spotNow(editor, model)
  if (!clip || !spot || bone === undefined)
    return void editor.notify('Select a bone, or point at a spot with the Path tool, and look at its move.')
  const layer = layerNow(editor, clip)
  const channels = leadingChannels(model.rig.puppet, bone).filter((channel) => layerOf(clip, layer).tracks[channel])
  const stretch = chosenSpan(editor) ?? stretchAround(clip, layer, channels, useActing.of(editor).getState().time)
  if (!stretch) return void editor.notify('Choose the keys between which spacing should be even, or look at a moment between two keys.')
  const frames = Math.round((stretch.to - stretch.from) * clip.rate)
  if (frames < 2) return void editor.notify('There is no frame between these keys.')
  const steps = (count: number): number[] =>
    Array.from({ length: count + 1 }, (_, k) => stretch.from + ((stretch.to - stretch.from) * k) / count)
  const fine = steps(frames * FINE)
  const places = placesAt(model.rig, clip, spot, makeFrame(model.rig), fine).filter((place) => place !== null)
  const times = steps(frames)
  const shown = places.length === fine.length ? evenTimes(places, fine, times) : null
  if (!shown) return void editor.notify('This spot does not move between these keys.')
  if (perform(editor, [edit(repace, { clip: clip.id, layer, channels, times, shown })])) setActing(editor, { keys: [], pose: null })
}

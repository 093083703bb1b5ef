/** Strides made for the open puppet, tried on the stage, and put into clips. */
import { edit } from '@marionette/core/kernel/command'
import { freeName } from '@marionette/core/kernel/freeName'
import { freshId } from '@marionette/core/kernel/ids'
import { idleFor } from '@marionette/core/motions/idleOf'
import { legFrom, strideFor, swingFrom, withGait } from '@marionette/core/motions/strideOf'
import { addIdle } from '@marionette/core/idle/commands'
import { baseOf } from '@marionette/core/clips/lookup'
import { setKeys } from '@marionette/core/clips/keyCommands'
import { bakeStrideEdits } from '@marionette/core/playing/bakeStride'
import { turningKeys } from '@marionette/core/playing/turnRound'
import { strideSpeed } from '@marionette/core/strides/channels'
import { addStride, setStride, strideOf } from '@marionette/core/strides/commands'
import { nth } from '@marionette/core/kernel/sure'
import { gaitOf, gaitsFor } from '@marionette/core/strides/gaits'
import { viewChannel } from '@marionette/core/views/channels'
import { lookAnew, openPuppet, perform, useDocument } from '../../editor/document'
import { editorStore, type Editor } from '../../editor/editor'
import { play } from '../../editor/live'
import { useLiving } from '../../editor/living'
import { useSession } from '../../editor/session'
import { clipNow, showMoment, useActing } from '../clips/acting'
import { chosenSpan, stopClip } from '../clips/playing'

/** The stride that is tried on the stage, at its own pace; null for none. */
export const useTrial = editorStore((): { readonly stride: string | null } => ({ stride: null }))

/** Lets a stride be found for the open puppet, with a gait; the first for as many legs where it is left out. */
export function makeStride(editor: Editor, gait?: string): void {
  const puppet = openPuppet(editor)
  const found = strideFor(puppet, freshId('stride'), 'Stride')
  if (found.legs.length === 0 && found.swings.every(({ bones }) => bones.length === 0))
    return void editor.notify('There are no bones to walk with yet: draw bones first.')
  const chosen = gait === undefined ? nth(gaitsFor(found.legs.length), 0) : gaitOf(gait)
  const name = freeName(puppet.strides, chosen.name)
  const stride = { ...withGait(puppet, found, chosen), name }
  if (perform(editor, [edit(addStride, { stride })], `Add stride: ${name}`)) tryStride(editor, stride.id)
}

/** Walks with selected bones, too: each leg in its own time, between those that are there. */
export function addLeg(editor: Editor, ids: readonly string[]): void {
  const puppet = openPuppet(editor)
  const leg = legFrom(puppet, ids)
  const own = [...leg.bones, ...[leg.foot, leg.toe].filter((id) => id !== null)]
  const [known] = puppet.strides
  const stride = known ?? { ...strideFor(puppet, freshId('stride'), 'Stride'), legs: [] }
  const others = stride.legs.filter(({ bones, foot, toe }) => ![...bones, foot, toe].some((id) => id !== null && own.includes(id)))
  const last = others[others.length - 1]
  const legs = [...others, { ...leg, at: last ? (last.at + 0.5) % 1 : 0 }]
  const swings = stride.swings.filter(({ bones }) => !bones.some((id) => own.includes(id)))
  const made = { ...stride, legs, swings }
  perform(editor, [known ? edit(setStride, { id: stride.id, legs, swings }) : edit(addStride, { stride: made })], `Walk with ${leg.name}`)
}

/** Lets selected bones swing in time with the legs. */
export function addSwing(editor: Editor, ids: readonly string[]): void {
  const puppet = openPuppet(editor)
  const [stride] = puppet.strides
  if (!stride) return void editor.notify('Let it walk first: what swings goes along with a stride.')
  const added = swingFrom(puppet, ids)
  const swings = [...stride.swings.filter(({ bones }) => !bones.some((id) => added.bones.includes(id))), added]
  perform(editor, [edit(setStride, { id: stride.id, swings })], `Swing ${added.name}`)
}

/** Gives a stride another gait. */
export function takeGait(editor: Editor, id: string, gait: string): void {
  const puppet = openPuppet(editor)
  const { id: _, name: __, ...given } = withGait(puppet, strideOf(puppet, id), gaitOf(gait))
  perform(editor, [edit(setStride, { id, ...given })], `Gait: ${gaitOf(gait).name}`)
}

/** Walks on the spot until it is stopped. */
export function tryStride(editor: Editor, id: string): void {
  stopTrial(editor)
  if (useActing.of(editor).getState().isPlaying) stopClip(editor)
  useTrial.of(editor).setState({ stride: id })
  useSession.of(editor).setState({ isTrying: true })
  play(editor, { [strideSpeed(id)]: 1 })
  lookAnew(editor)
}

export function stopTrial(editor: Editor): void {
  if (useTrial.of(editor).getState().stride === null) return
  useTrial.of(editor).setState({ stride: null })
  useSession.of(editor).setState({ isTrying: false })
  if (clipNow(editor)) showMoment(editor)
  else {
    play(editor, null)
    lookAnew(editor)
  }
}

/** Whatever else is looked at ends the trial; returns how to end this. */
export function endTrial(editor: Editor): () => void {
  const ends = [
    useSession.of(editor).subscribe((s, before) => {
      if (s.bench === before.bench && s.tools === before.tools) return
      stopTrial(editor)
      watchLife(editor, false)
    }),
    useActing.of(editor).subscribe((s, before) => s.isPlaying && !before.isPlaying && stopTrial(editor)),
    useDocument.of(editor).subscribe((s) => {
      const { stride } = useTrial.of(editor).getState()
      if (stride !== null && !s.history?.puppet.strides.some(({ id }) => id === stride)) stopTrial(editor)
    }),
  ]
  return () => {
    ends.forEach((end) => end())
    stopTrial(editor)
  }
}

/** Keys of the open clip: a stride goes at a pace from the moment on; 0 stops it. */
export function keyPace(editor: Editor, id: string, pace: number): void {
  const clip = clipNow(editor)
  if (!clip) return
  stopTrial(editor)
  const { time } = useActing.of(editor).getState()
  const channel = strideSpeed(id)
  const isFirst = baseOf(clip).tracks[channel] === undefined && time > 0
  const keys = [
    ...(isFirst ? [{ channel, time: 0, value: 0, way: 'stepped' as const }] : []),
    { channel, time, value: pace, way: 'stepped' as const },
  ]
  perform(editor, [edit(setKeys, { clip: clip.id, layer: baseOf(clip).id, keys })], pace === 0 ? 'Stop here' : 'Walk from here')
}

/** Keys of the open clip by which the puppet turns to a view, as soon as its feet pass each other. */
export function turnTo(editor: Editor, view: string): void {
  const clip = clipNow(editor)
  const puppet = useDocument.of(editor).getState().history?.puppet
  if (!clip || !puppet) return
  stopTrial(editor)
  const channel = viewChannel(puppet)
  const turning = turningKeys(puppet, clip, useActing.of(editor).getState().time, view)
  if (turning.length === 0) return void editor.notify('It is seen from this side already.')
  const { pose } = puppet
  const isFirst = baseOf(clip).tracks[channel] === undefined && (turning[0]?.time ?? 0) > 0
  const before = isFirst ? [{ time: 0, value: pose[channel] ?? 0 }] : []
  const keys = [...before, ...turning].map((key) => ({ channel, ...key, way: 'stepped' as const }))
  perform(editor, [edit(setKeys, { clip: clip.id, layer: baseOf(clip).id, keys })], 'Turn round')
}

/** Makes keys of a stride, between the chosen keys, in the range that plays, or in all of the clip. */
export function bakeStride(editor: Editor, stride: string, tolerance: number): void {
  const clip = clipNow(editor)
  const puppet = useDocument.of(editor).getState().history?.puppet
  if (!clip || !puppet) return
  stopTrial(editor)
  const stretch = chosenSpan(editor) ?? clip.range ?? {}
  try {
    const edits = bakeStrideEdits(puppet, { clip: clip.id, stride, layer: freshId('layer'), tolerance, ...stretch })
    perform(editor, edits, `Bake ${strideOf(puppet, stride).name}`)
  } catch (error) {
    editor.notify(error instanceof Error ? error.message : String(error))
  }
}

/** The tempo nearest to that of a stride with which whole strides fill what plays of a clip. */
export const tempoForLoop = (tempo: number, seconds: number): number => Math.max(1, Math.round(tempo * seconds)) / seconds

/** Lets the puppet breathe, blink and shift its weight. */
export function makeIdle(editor: Editor): void {
  const puppet = openPuppet(editor)
  perform(editor, [edit(addIdle, { idle: idleFor(puppet, freshId('idle'), freeName(puppet.idles, 'Idle life')) })], 'Add idle life')
}

/** Lets idle life be seen while the puppet is posed, also where it is shown at rest else. */
export function watchLife(editor: Editor, isOn: boolean): void {
  if (useLiving.of(editor).getState().isOn === isOn) return
  useLiving.of(editor).setState({ isOn })
  if (useTrial.of(editor).getState().stride === null) useSession.of(editor).setState({ isTrying: isOn })
  lookAnew(editor)
}

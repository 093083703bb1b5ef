/** Strides made for the open puppet, tried on the stage, and put into clips. */
import { edit } from '@marionette/core/kernel/command'
import { freeName } from '@marionette/core/kernel/freeName'
import { freshId } from '@marionette/core/kernel/ids'
import { idleFor } from '@marionette/core/motions/idleOf'
import { legFrom, strideFor, swingFrom, withGait } from '@marionette/core/motions/strideOf'
import { addIdle } from '@marionette/core/idle/commands'
import { baseOf } from '@marionette/core/clips/lookup'
import type { Clip, Key } from '@marionette/core/clips/records'
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
import { clipNow, showAsActed, useActing } from '../clips/acting'
import { bakeStretch } from '../clips/baking'
import { stopClip } from '../clips/playing'
import { stopShaking, useShaker } from '../springs/shaker'

/** The stride that is tried on the stage, at its own pace; null for none. */
export const useTrial = editorStore((): { readonly stride: string | null } => ({ stride: null }))

/** Lets a stride be found for the open puppet, with a gait; the first for as many legs where it is left out. */
export function makeStride(editor: Editor, gait?: string): void {
  const puppet = openPuppet(editor)
  const made = strideFor(puppet, freshId('stride'), 'Stride', gait === undefined ? undefined : gaitOf(gait))
  if (made.legs.length === 0 && made.swings.every(({ bones }) => bones.length === 0))
    return void editor.notify('There are no bones to walk with yet: draw bones first.')
  const { name: called } = gait === undefined ? nth(gaitsFor(made.legs.length), 0) : gaitOf(gait)
  const stride = { ...made, name: freeName(puppet.strides, called) }
  if (perform(editor, [edit(addStride, { stride })], `Add stride: ${stride.name}`)) tryStride(editor, stride.id)
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
  stopShaking(editor)
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
  showAsActed(editor)
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
    useShaker.of(editor).subscribe((s) => s.id !== null && stopTrial(editor)),
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

/** Keys a channel of the open clip in steps; before the first of them it stays as it was. */
function keySteps(
  editor: Editor,
  clip: Clip,
  channel: string,
  before: number,
  steps: readonly Pick<Key, 'time' | 'value'>[],
  label: string,
): void {
  const isFirst = baseOf(clip).tracks[channel] === undefined && steps.every(({ time }) => time > 0)
  const all = isFirst ? [{ time: 0, value: before }, ...steps] : steps
  const keys = all.map((key) => ({ channel, ...key, way: 'stepped' as const }))
  perform(editor, [edit(setKeys, { clip: clip.id, layer: baseOf(clip).id, keys })], label)
}

/** Keys of the open clip: a stride goes at a pace from the moment on; 0 stops it. */
export function keyPace(editor: Editor, id: string, pace: number): void {
  const clip = clipNow(editor)
  if (!clip) return
  stopTrial(editor)
  const { time } = useActing.of(editor).getState()
  keySteps(editor, clip, strideSpeed(id), 0, [{ time, value: pace }], pace === 0 ? 'Stop here' : 'Walk from here')
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
  keySteps(editor, clip, channel, puppet.pose[channel] ?? 0, turning, 'Turn round')
}

/** Makes keys of a stride, between the chosen keys, in the range that plays, or in all of the clip. */
export function bakeStride(editor: Editor, stride: string, tolerance: number): void {
  stopTrial(editor)
  const { name } = strideOf(openPuppet(editor), stride)
  bakeStretch(editor, `Bake ${name}`, tolerance, (puppet, options) => bakeStrideEdits(puppet, { ...options, stride }))
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

/** Marlo's clips: a wave, and a look round the quay. */
import { addClip } from '@marionette/core/clips/commands'
import { newClip } from '@marionette/core/clips/new'
import { setKeys } from '@marionette/core/clips/keyCommands'
import { followLate } from '@marionette/core/clips/moveCommands'
import { hangPose } from '@marionette/core/clips/poseCommands'
import { run } from '@marionette/core/puppet/edit'
import type { Puppet } from '@marionette/core/puppet/schema'
import { sure } from '@marionette/core/kernel/sure'

/** Values by short words: `Forearm left` is the angle of a bone, `Hips.y` a field of it, `=Mood` a control. */
type Values = Readonly<Record<string, number>>

interface Beat {
  readonly name: string
  readonly time: number
  readonly values: Values
}

const STANDING: Values = {
  ...{ 'Hips.y': 0, Chest: 0, Head: 0, 'Upper arm left': 0, 'Forearm left': 0, 'Hand left': 0 },
  ...{ 'Upper arm right': 0, 'Forearm right': 0, '=Brows': 0, '=Mood': 0, '=Open': 0, 'Scarf tail': 0 },
}

const WAVE_OUT: Values = {
  ...{ 'Hips.y': -2, Chest: 4, Head: 6, 'Upper arm left': 74, 'Forearm left': 52, 'Hand left': -16 },
  ...{ 'Upper arm right': -10, 'Forearm right': -14, '=Brows': 0.5, '=Mood': 0.9, '=Open': 0.45, 'Scarf tail': 3 },
}

const WAVE: readonly Beat[] = [
  { name: 'Rest', time: 0, values: STANDING },
  {
    name: 'Gather',
    time: 0.5,
    values: { ...STANDING, 'Hips.y': 7, Chest: -4, Head: -5, 'Upper arm left': -12, 'Forearm left': 18, '=Brows': -0.2, 'Scarf tail': -5 },
  },
  {
    name: 'Lift',
    time: 24 / 24,
    values: { ...WAVE_OUT, 'Hips.y': -5, 'Upper arm left': 62, 'Forearm left': 74, 'Hand left': -30, '=Open': 0.2 },
  },
  { name: 'Wave out', time: 33 / 24, values: WAVE_OUT },
  { name: 'Wave in', time: 43 / 24, values: { ...WAVE_OUT, 'Upper arm left': 80, 'Forearm left': 88, 'Hand left': 18, Head: 8 } },
  { name: 'Wave out', time: 53 / 24, values: WAVE_OUT },
  { name: 'Wave in', time: 62 / 24, values: { ...WAVE_OUT, 'Upper arm left': 80, 'Forearm left': 88, 'Hand left': 18, '=Open': 0.1 } },
  { name: 'Settle', time: 78 / 24, values: { ...STANDING, '=Mood': 0.5 } },
]

const LOOK: readonly Beat[] = [
  { name: 'Ahead', time: 0, values: { '=Head turn.x': 0, '=Head turn.y': 0, '=Gaze.x': 0, '=Gaze.y': 0, '=Brows': 0, Head: 0, Chest: 0 } },
  {
    name: 'To the boats',
    time: 0.9,
    values: { '=Head turn.x': -0.85, '=Head turn.y': 0.1, '=Gaze.x': -0.7, '=Gaze.y': 0.1, '=Brows': 0.4, Head: 4, Chest: 3 },
  },
  {
    name: 'To the clock',
    time: 2.2,
    values: { '=Head turn.x': 0.8, '=Head turn.y': 0.45, '=Gaze.x': 0.6, '=Gaze.y': 0.7, '=Brows': 0.7, Head: -5, Chest: -3 },
  },
  {
    name: 'Ahead again',
    time: 3.4,
    values: { '=Head turn.x': 0, '=Head turn.y': 0, '=Gaze.x': 0, '=Gaze.y': 0, '=Brows': 0, Head: 0, Chest: 0 },
  },
]

/** The address that a short word stands for. */
function addressOf(puppet: Puppet, word: string): string {
  const [name = '', field] = word.split('.')
  if (!name.startsWith('=')) return `bone/${sure(Object.values(puppet.bones).find((b) => b.name === name)).id}/${field ?? 'angle'}`
  return `control/${sure(puppet.controls.find((c) => c.name === name.slice(1))).id}/${field ?? 'value'}`
}

const valuesOf = (puppet: Puppet, values: Values): Record<string, number> =>
  Object.fromEntries(Object.entries(values).map(([word, value]) => [addressOf(puppet, word), value]))

function withClip(puppet: Puppet, id: string, name: string, length: number, beats: readonly Beat[]): Puppet {
  const made = run(puppet, addClip, { clip: newClip(id, name, { length }) })
  return beats.reduce(
    (p, beat, k) =>
      run(p, hangPose, {
        ...{ clip: id, layer: `${id}-base`, pose: { id: `${id}-pose-${k + 1}`, name: beat.name, time: beat.time } },
        values: valuesOf(p, beat.values),
      }),
    made,
  )
}

/** Keys of a blink of the lids about a time. */
function withBlink(puppet: Puppet, id: string, time: number): Puppet {
  const channel = addressOf(puppet, '=Lids')
  const keys = [
    [-2, 0],
    [0, 1],
    [1, 1],
    [4, 0],
  ].map(([frames = 0, value = 0]) => ({ channel, time: time + frames / 24, value }))
  return run(puppet, setKeys, { clip: id, layer: `${id}-base`, keys })
}

/** Marlo with two clips. */
export function withActing(puppet: Puppet): Puppet {
  const waved = withClip(puppet, 'marlo-wave', 'Wave', 3.5, WAVE)
  const channels = ['Upper arm left', 'Forearm left', 'Hand left'].map((word) => addressOf(waved, word))
  const late = run(waved, followLate, {
    ...{ clip: 'marlo-wave', layer: 'marlo-wave-base', channels },
    ...{ from: 0.9, to: 3, seconds: 2 / 24, falloff: 0.5 },
  })
  const looking = withClip(withBlink(late, 'marlo-wave', 14 / 24), 'marlo-look', 'Look round', 4, LOOK)
  return [0.5, 1.6, 3].reduce((p, time) => withBlink(p, 'marlo-look', Math.round(time * 24) / 24), looking)
}

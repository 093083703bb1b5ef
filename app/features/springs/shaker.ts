/** The shaker: the puppet hops, turns, runs and stops or nods over and over, so that springs are seen while they are tuned. */
import { skeletonHeight } from '@marionette/core/bones/tree'
import { boneChannel } from '@marionette/core/bones/channels'
import { MotionRun } from '@marionette/core/playing/motionRun'
import { writeValues } from '@marionette/core/puppet/evaluate'
import type { Rig } from '@marionette/core/puppet/rig'
import type { Puppet } from '@marionette/core/puppet/schema'
import { openPuppet, lookAnew } from '../../editor/document'
import { editorState, editorStore, type Editor } from '../../editor/editor'
import { play } from '../../editor/live'
import { useSession } from '../../editor/session'
import { showAsActed, useActing } from '../clips/acting'
import { stopClip } from '../clips/playing'

export type ShakeId = 'hop' | 'turn' | 'run' | 'nod'

/** How far something is out at a time of the round, as a share of its reach. */
interface Shake {
  readonly id: ShakeId
  readonly label: string
  readonly hint: string
  /** Seconds of one round: the motion, and time to settle. */
  readonly round: number
  /** What of the root moves, by the height of the skeleton or in degrees. */
  values(time: number, height: number): { readonly x?: number; readonly y?: number; readonly angle?: number; readonly front?: number }
}

const ease = (t: number): number => {
  const s = Math.min(1, Math.max(0, t))
  return s * s * (3 - 2 * s)
}

export const SHAKES: readonly Shake[] = [
  {
    id: 'hop',
    label: 'Hop',
    hint: 'Jumps up and lands',
    round: 2.4,
    values: (t, height) => ({ y: t < 0.7 ? -0.18 * height * Math.sin((Math.PI * t) / 0.7) : 0 }),
  },
  {
    id: 'turn',
    label: 'Lean',
    hint: 'Leans to either side',
    round: 2.8,
    values: (t) => ({ angle: 18 * (ease(t / 0.35) - 2 * ease((t - 0.7) / 0.45) + ease((t - 1.4) / 0.3)) }),
  },
  {
    id: 'run',
    label: 'Run and stop',
    hint: 'Dashes to the side and stops at once',
    round: 3,
    values: (t, height) => ({ x: 0.35 * height * (Math.min(1, (t / 0.6) ** 2) - ease((t - 1.8) / 0.9)) }),
  },
  {
    id: 'nod',
    label: 'Nod',
    hint: 'What carries the springs nods',
    round: 2.2,
    values: (t) => ({ front: t < 0.9 ? 16 * Math.sin((4 * Math.PI * t) / 0.9) : 0 }),
  },
]

interface Shaking {
  readonly id: ShakeId | null
  readonly spring: string | null
}

export const useShaker = editorStore<Shaking>(() => ({ id: null, spring: null }))

interface Own {
  request: number
  begun: number
  run: { readonly rig: Rig; readonly run: MotionRun } | null
  shaker: { readonly puppet: Puppet; valuesAt: (time: number) => Record<string, number> } | null
}

const stateOf = editorState((): Own => ({ request: 0, begun: 0, run: null, shaker: null }))

const shakeOf = (id: ShakeId): Shake => SHAKES.find((shake) => shake.id === id) as Shake

/** The bones that carry a group: those that its first ones hang from. */
function carriers(puppet: Puppet, spring: string | null): string[] {
  const swung = puppet.springs.find(({ id }) => id === spring)?.bones ?? []
  const above = swung.map((id) => puppet.bones[id]?.parent ?? null).filter((id) => id !== null && !swung.includes(id))
  return [...new Set(above as string[])]
}

/** What the shaker poses of a puppet at times of its round, by address. */
export function shakerOf(puppet: Puppet, id: ShakeId, spring: string | null): (time: number) => Record<string, number> {
  const shaking = shakeOf(id)
  const height = skeletonHeight(puppet)
  const fronts = carriers(puppet, spring)
  return (time) => {
    const { x = 0, y = 0, angle = 0, front = 0 } = shaking.values(time, height)
    const out: Record<string, number> = {}
    const add = (bone: string, field: 'x' | 'y' | 'angle', by: number): void => {
      const address = boneChannel(bone, field)
      if (by !== 0) out[address] = (out[address] ?? puppet.pose[address] ?? 0) + by
    }
    for (const root of puppet.skeleton) {
      add(root, 'x', x)
      add(root, 'y', y)
      add(root, 'angle', angle)
    }
    for (const bone of fronts) add(bone, 'angle', front)
    return out
  }
}

/** The shaker of a puppet, made again only where the puppet is another one. */
function shakerNow(editor: Editor, puppet: Puppet, id: ShakeId, spring: string | null): (time: number) => Record<string, number> {
  const own = stateOf(editor)
  if (own.shaker?.puppet !== puppet) own.shaker = { puppet, valuesAt: shakerOf(puppet, id, spring) }
  return own.shaker.valuesAt
}

/** Springs of a rig under a shake, simulated from the beginning of the round. */
function runFor(editor: Editor, rig: Rig, id: ShakeId, spring: string | null): MotionRun {
  const own = stateOf(editor)
  if (own.run?.rig !== rig) {
    const { puppet } = rig
    const valuesAt = shakerOf(puppet, id, spring)
    const made = new MotionRun(rig, (time, pose) => {
      writeValues(rig, puppet.pose, pose)
      writeValues(rig, valuesAt(time), pose)
    })
    own.run = { rig, run: made }
  }
  return own.run.run
}

/** Shakes the puppet until it is stopped; the same shake again stops it. */
export function shake(editor: Editor, id: ShakeId, spring: string | null): void {
  const own = stateOf(editor)
  if (useShaker.of(editor).getState().id === id) return stopShaking(editor)
  stopShaking(editor)
  if (useActing.of(editor).getState().isPlaying) stopClip(editor)
  useShaker.of(editor).setState({ id, spring })
  useSession.of(editor).setState({ isTrying: true })
  own.begun = performance.now()
  own.run = null
  own.shaker = null
  const next = (now: number): void => {
    own.request = requestAnimationFrame(next)
    const time = Math.max(0, (now - own.begun) / 1000) % shakeOf(id).round
    play(editor, shakerNow(editor, openPuppet(editor), id, spring)(time), time, (rig) => runFor(editor, rig, id, spring).at(time))
  }
  own.request = requestAnimationFrame(next)
  lookAnew(editor)
}

export function stopShaking(editor: Editor): void {
  const own = stateOf(editor)
  if (useShaker.of(editor).getState().id === null) return
  cancelAnimationFrame(own.request)
  own.run = null
  own.shaker = null
  useShaker.of(editor).setState({ id: null, spring: null })
  useSession.of(editor).setState({ isTrying: false })
  showAsActed(editor)
}

/** Whatever else is looked at ends the shaker; returns how to end this. */
export function endShaking(editor: Editor): () => void {
  const ends = [
    useSession.of(editor).subscribe((s, before) => {
      const isElsewhere = s.bench !== before.bench || s.tools !== before.tools
      // Its buttons stand at bones.
      if (isElsewhere || (s.selection !== before.selection && s.selection.kind !== 'bone')) stopShaking(editor)
    }),
    useActing.of(editor).subscribe((s, before) => s.isPlaying && !before.isPlaying && stopShaking(editor)),
  ]
  return () => {
    ends.forEach((end) => end())
    stopShaking(editor)
  }
}

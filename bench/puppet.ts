/** evaluate-*, compile-*, allocate-frame and draw-*. */
import { DEMOS } from '@marionette/demo/demos'
import type { Puppet } from '@marionette/core/puppet/schema'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, makeFrame } from '@marionette/core/puppet/evaluate'
import { generatePuppet, HEAVY, STRESS, TYPICAL } from '@marionette/core/test/puppets'
import { loadCanvasKit } from '@marionette/render/node'
import { Painter } from '@marionette/render/painter'
import { toMatrix } from '@marionette/render/paints'
import { clipForRig } from '@marionette/core/playing/clips'
import { newKey } from '@marionette/core/clips/edits'
import { writeClip } from '@marionette/core/clips/layers'
import { newClip, newLayer } from '@marionette/core/clips/new'
import type { Clip, Track } from '@marionette/core/clips/records'
import { measure, type Figure } from './measure'
import { familyOf } from '@marionette/core/kernel/slots'
import { boneSlot } from '@marionette/core/bones/channels'

const WIDTH = 1280
const HEIGHT = 720

/** A rig whose bones all turn a little further each round. */
function turning(puppet: Puppet) {
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose)
  const bones = rig.bones.ids.length
  const step = (round: number): void => {
    for (let b = 0; b < bones; b++) pose[boneSlot(b)] = 15 * Math.sin(0.1 * round + b)
    evaluate(rig, pose, frame)
  }
  return { rig, frame, step }
}

/** A rig whose bones and controls all move a little further each round. */
function movingAll(puppet: Puppet): (round: number) => void {
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose)
  const { base, stride, index } = familyOf(rig.slots, 'control')
  return (round) => {
    for (let b = 0; b < rig.bones.ids.length; b++) pose[boneSlot(b)] = 15 * Math.sin(0.1 * round + b)
    for (let k = 0; k < stride * index.size; k++) pose[base + k] = Math.sin(0.07 * round + k)
    evaluate(rig, pose, frame)
  }
}

export const pointsOf = (puppet: Puppet): number =>
  Object.values(puppet.drawings).reduce(
    (sum, d) => sum + d.shapes.reduce((s, shape) => s + shape.paths.reduce((p, path) => p + path.ids.length, 0), 0),
    0,
  )

export function evaluateFigure(name: string, puppet: Puppet, frames = 100): Figure {
  const { step } = turning(puppet)
  // One frame is far below the clock's grain; many are timed together.
  const many = measure(name, pointsOf(puppet), 'one frame, all bones turning', (round) => {
    for (let i = 0; i < frames; i++) step(frames * round + i)
  })
  return { ...many, median_ms: many.median_ms! / frames, p95_ms: many.p95_ms! / frames }
}

/** Tracks of a clip of a typical puppet. */
const TRACKS = 60
const KEYS = 12

/** A clip with a track for each of many channels, keys of all ways in it. */
function busyClip(puppet: Puppet): Clip {
  const channels = [
    ...Object.keys(puppet.bones).map((id) => `bone/${id}/angle`),
    ...Object.keys(puppet.parts).map((id) => `part/${id}/angle`),
  ]
  const ways = ['smooth', 'flat', 'linear'] as const
  const tracks = channels.slice(0, TRACKS).map((channel, c): [string, Track] => {
    const keys = Array.from({ length: KEYS }, (_, k) => newKey(k / 2, 20 * Math.sin(k + c), null, ways[(k + c) % 3]))
    return [channel, { keys, before: 'hold', after: 'repeat' }]
  })
  return newClip('busy', 'Busy', { length: 6, layers: [{ ...newLayer('busy-base', 'Base'), tracks: Object.fromEntries(tracks) }] })
}

/** A clip of sixty tracks, asked at times in no order; the same evaluation without a clip beside it. */
export function evaluateClipFigure(name: string, puppet: Puppet, frames = 100): Figure {
  const rig = compile(puppet)
  const frame = makeFrame(rig)
  const pose = new Float64Array(rig.restPose)
  const ready = clipForRig(rig, busyClip(puppet))
  const moments = Array.from({ length: 997 }, (_, k) => (6 * ((k * 613) % 997)) / 997)
  let k = 0
  const { step } = turning(puppet)
  const many = measure(
    name,
    pointsOf(puppet),
    'one frame of a clip of 60 tracks at any time, against one without a clip',
    () => {
      for (let i = 0; i < frames; i++) {
        pose.set(rig.restPose)
        writeClip(ready, moments[++k % moments.length]!, pose)
        evaluate(rig, pose, frame)
      }
    },
    (round) => {
      for (let i = 0; i < frames; i++) step(frames * round + i)
    },
  )
  return {
    ...many,
    median_ms: many.median_ms! / frames,
    p95_ms: many.p95_ms! / frames,
    ...(many.reference_ms ? { reference_ms: many.reference_ms / frames } : {}),
  }
}

export function allocateFigure(): Figure {
  const step = movingAll(DEMOS['marlo']!().puppet)
  for (let i = 0; i < 2000; i++) step(i)
  const collect = (globalThis as { gc?: () => void }).gc
  collect?.()
  const before = process.memoryUsage().heapUsed
  const frames = 5000
  for (let i = 0; i < frames; i++) step(i)
  const bytes = Math.max(0, Math.round((process.memoryUsage().heapUsed - before) / frames))
  return {
    name: 'allocate-frame',
    bytes,
    n: frames,
    note: collect ? 'heap growth for each evaluated frame of Marlo, all bones and controls moving' : 'without --expose-gc, unreliable',
  }
}

export function compileFigure(name: string, puppet: Puppet, rounds?: number): Figure {
  return measure(
    name,
    pointsOf(puppet),
    'all drawings new to the compiler each round',
    () => {
      compile({ ...puppet, drawings: Object.fromEntries(Object.entries(puppet.drawings).map(([id, d]) => [id, { ...d }])) })
    },
    undefined,
    rounds,
  )
}

export async function drawFigure(name: string, puppet: Puppet): Promise<Figure> {
  const CK = await loadCanvasKit()
  const { frame, step } = turning(puppet)
  const surface = CK.MakeSurface(WIDTH, HEIGHT)!
  const canvas = surface.getCanvas()
  const scale = HEIGHT / puppet.canvas.height
  const painter = new Painter(CK)
  const draw = (with_: Painter): void => {
    canvas.clear(CK.WHITE)
    canvas.save()
    canvas.concat(toMatrix([scale, 0, 0, scale, 0, 0]))
    with_.paint(canvas, frame)
    canvas.restore()
    surface.flush()
  }
  const figure = measure(
    name,
    frame.rig.drawings.length,
    'processor surface 1280x720, all bones turning; reference: every Skia object made anew each frame',
    (round) => {
      step(round)
      draw(painter)
    },
    (round) => {
      step(round)
      const fresh = new Painter(CK)
      draw(fresh)
      fresh.dispose()
    },
  )
  painter.dispose()
  surface.delete()
  return figure
}

export const marlo = (): Puppet => DEMOS['marlo']!().puppet
export const typical = (): Puppet => generatePuppet(TYPICAL)
export const heavy = (): Puppet => generatePuppet(HEAVY)
export const stress = (): Puppet => generatePuppet(STRESS)

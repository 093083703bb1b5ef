/** Bends: how much of a limb stays, how close curves come to their true image, how smooth they are. */
import { describe, expect, test } from 'vitest'
import { autoWeights } from '../../binds/autoWeights'
import type { Drawing } from '../records'
import type { Puppet } from '../../puppet/schema'
import { bindBlended, setBindMode } from '../../binds/commands'
import { addBone } from '../../bones/commands'
import { run } from '../../puppet/edit'
import { setHome } from '../../parts/commands'
import { newPuppet } from '../../puppet/new'
import { armPuppet, box, drawingPart } from '../../test/puppets'
import { centresOf } from '../../binds/centres'
import { compile } from '../../puppet/compile'
import { poseRig } from '../../puppet/evaluate'
import { samplerOf } from '../../binds/field'
import { CUBIC } from './flat'
import { posedOutline } from '../../puppet/probe'
import { skinLinear, skinVolume } from '../../binds/skin'
import { addArtwork } from '../../puppet/artworkCommands'
import type { Rig } from '../../puppet/rig'

type Mode = 'volume' | 'linear'

/** A limb of two bones, 200 by `width`, with rounded ends. */
function limb(mode: Mode, width: number): Puppet {
  const r = width / 2
  const k = r * 0.5523
  const sleeve: Drawing = {
    id: 'd-limb',
    shapes: [
      {
        ...box('d', 0, 0, 1, 1).shapes[0]!,
        paths: [
          {
            closed: true,
            ids: [0, 1, 2, 3, 4, 5],
            anchors: [100, 100 - r, 300, 100 - r, 300 + r, 100, 300, 100 + r, 100, 100 + r, 100 - r, 100],
            handles: [-k, 0, 0, 0, 0, 0, k, 0, 0, -k, 0, k, k, 0, 0, 0, 0, 0, -k, 0, 0, k, 0, -k],
          },
        ],
      },
    ],
  }
  let puppet = newPuppet('limb', 'Limb', { width: 500, height: 300 })
  puppet = run(puppet, addArtwork, { parent: puppet.root, parts: [drawingPart('limb', 'Limb', sleeve)], drawings: [sleeve] })
  puppet = run(puppet, addBone, { id: 'upper', name: 'Upper', parent: null, start: { x: 100, y: 100 }, end: { x: 200, y: 100 } })
  puppet = run(puppet, addBone, { id: 'lower', name: 'Lower', parent: 'upper', start: { x: 200, y: 100 }, end: { x: 300, y: 100 } })
  const bones = ['upper', 'lower']
  return run(puppet, bindBlended, { part: 'limb', bones, field: autoWeights(puppet, 'limb', bones), mode })
}

function areaAt(rig: Rig, angle: number): number {
  const frame = poseRig(rig, { 'bone/lower/angle': angle })
  return posedOutline(frame, 0, rig.drawings[0]!.geometry.shapes[0]!).reduce((sum, { points }) => {
    for (let i = 0; i < points.length; i += 2) {
      const j = (i + 2) % points.length
      sum += (points[i]! * points[j + 1]! - points[j]! * points[i + 1]!) / 2
    }
    return sum
  }, 0)
}

const keptAt = (puppet: Puppet, angle: number): number => {
  const rig = compile(puppet)
  return areaAt(rig, angle) / areaAt(rig, 0)
}

describe('volume', () => {
  test.each([30, 40, 60])('a limb %s px wide and bent by 120 degrees keeps at least 92 in 100 parts of its area', (width) => {
    for (const angle of [120, -120]) expect(keptAt(limb('volume', width), angle)).toBeGreaterThan(0.92)
  })

  test('the plain blend, the baseline, loses more', () => {
    expect(keptAt(limb('linear', 60), 120)).toBeLessThan(keptAt(limb('volume', 60), 120) - 0.02)
  })

  test('both leave the rest and a turn of everything alone', () => {
    for (const mode of ['volume', 'linear'] as const) {
      const rig = compile(limb(mode, 40))
      const rest = poseRig(rig, {}).points[0]!
      rig.drawings[0]!.geometry.points.forEach((v, i) => expect(rest[i]).toBeCloseTo(v, 6))
      const turned = poseRig(rig, { 'bone/upper/angle': 90 }).points[0]!
      for (let i = 0; i < rest.length; i += 2) {
        expect(turned[i]).toBeCloseTo(100 + (rest[i + 1]! - 100), 6)
        expect(turned[i + 1]).toBeCloseTo(100 - (rest[i]! - 100), 6)
      }
    }
  })

  test('the two are a choice of the bind', () => {
    const puppet = limb('volume', 60)
    expect(keptAt(run(puppet, setBindMode, { part: 'limb', mode: 'linear' }), 120)).toBeCloseTo(keptAt(limb('linear', 60), 120), 9)
  })
})

describe('centres of rotation', () => {
  const puppet = limb('volume', 40)
  const bind = puppet.parts['limb']!.bind
  if (bind?.kind !== 'blended') throw new Error('The limb is not blended.')
  const centres = centresOf(bind.field, 2)

  test('lie on the axis of the limb, near the joint for what is shared evenly', () => {
    const { vertices, starts, weights } = bind.field
    let looked = 0
    for (let v = 0; v < vertices.length / 2; v++) {
      const row = weights.slice(starts[v], starts[v + 1])
      if (row.length < 2 || Math.min(...row) < 0.4) continue
      looked++
      expect(Math.abs(centres[2 * v + 1]! - 100)).toBeLessThan(2)
      expect(Math.abs(centres[2 * v]! - 200)).toBeLessThan(12)
    }
    expect(looked).toBeGreaterThan(5)
  })

  test('opposite turns of equal weight do not blow up', () => {
    const out = new Float64Array(2)
    const motions = Float64Array.of(1, 0, 0, 1, 0, 0, -1, 0, 0, -1, 400, 200)
    skinVolume(
      Float64Array.of(200, 80),
      Float64Array.of(200, 100),
      Int32Array.of(0, 6, 0, 0),
      Float64Array.of(0.5, 0.5, 0, 0),
      motions,
      Float64Array.of(1, 0, 0, 1, 0, 0),
      0,
      out,
    )
    expect([...out]).toEqual([200, 100])
  })
})

describe('refinement', () => {
  /** Largest distance between the bent outline and its image, sampled densely along every drawn segment. */
  function strayOf(puppet: Puppet, part: string, pose: Record<string, number>): number {
    const rig = compile(puppet)
    const d = rig.drawings.findIndex((x) => rig.parts.ids[x.part] === part)
    const { tessellation: soft, drawing } = rig.drawings[d]!
    const bind = puppet.parts[part]!.bind
    if (!soft || bind?.kind !== 'blended') throw new Error('Nothing bends.')
    const frame = poseRig(rig, pose)
    const outline = rig.drawings[d]!.geometry.shapes.flatMap((shape) => posedOutline(frame, d, shape)).flatMap(({ points }) => points)
    const dense: number[] = []
    for (const path of drawing.shapes.flatMap((s) => s.paths))
      for (let i = 0; i < path.ids.length - (path.closed ? 0 : 1); i++)
        for (let k = 0; k < 400; k++) dense.push(...onPath(path, i, k / 400))
    const truth = skinned(rig, bind, dense, frame)
    let worst = 0
    for (let i = 0; i < truth.length; i += 2) worst = Math.max(worst, nearest(outline, truth[i]!, truth[i + 1]!))
    return worst
  }

  function onPath(path: Drawing['shapes'][number]['paths'][number], i: number, t: number): [number, number] {
    const j = (i + 1) % path.ids.length
    return [0, 1].map((axis) => {
      const a = path.anchors[2 * i + axis]!
      const b = path.anchors[2 * j + axis]!
      const out = path.handles[4 * i + 2 + axis]!
      const into = path.handles[4 * j + axis]!
      const u = 1 - t
      return u ** 3 * a + 3 * u * u * t * (a + out) + 3 * u * t * t * (b + into) + t ** 3 * b
    }) as [number, number]
  }

  function skinned(
    rig: Rig,
    bind: { field: Parameters<typeof samplerOf>[0]; bones: readonly string[]; mode: Mode },
    points: number[],
    frame: ReturnType<typeof poseRig>,
  ): Float64Array {
    const n = points.length / 2
    const offsets = new Int32Array(4 * n)
    const weights = new Float64Array(4 * n)
    const centres = new Float64Array(2 * n)
    const sampler = samplerOf(bind.field, bind.bones.length)
    for (let i = 0; i < n; i++) sampler.sample(points[2 * i]!, points[2 * i + 1]!, i, offsets, weights, centres)
    for (let i = 0; i < offsets.length; i++) offsets[i]! *= 6
    const motions = Float64Array.from(
      bind.bones.flatMap((b) => [...frame.bones.subarray(6 * rig.bones.index.get(b)!, 6 * rig.bones.index.get(b)! + 6)]),
    )
    const out = new Float64Array(2 * n)
    const rest = Float64Array.from(points)
    if (bind.mode === 'linear') skinLinear(rest, offsets, weights, motions, out)
    else skinVolume(rest, centres, offsets, weights, motions, Float64Array.of(1, 0, 0, 1, 0, 0), 0, out)
    return out
  }

  function nearest(outline: readonly number[], x: number, y: number): number {
    let best = Infinity
    for (let i = 0; i + 3 < outline.length; i += 2) {
      const dx = outline[i + 2]! - outline[i]!
      const dy = outline[i + 3]! - outline[i + 1]!
      const t = Math.min(1, Math.max(0, ((x - outline[i]!) * dx + (y - outline[i + 1]!) * dy) / Math.max(dx * dx + dy * dy, 1e-12)))
      best = Math.min(best, Math.hypot(x - outline[i]! - t * dx, y - outline[i + 1]! - t * dy))
    }
    // The closing chord.
    return Math.min(best, Math.hypot(x - outline[0]!, y - outline[1]!))
  }

  test.each(['volume', 'linear'] as const)('a bent curve stays within 0.25 px of its densely sampled image (%s)', (mode) => {
    for (const angle of [45, 90, 120, -120]) expect(strayOf(limb(mode, 40), 'limb', { 'bone/lower/angle': angle })).toBeLessThan(0.25)
  })

  test('what does not bend is hardly split, what bends more is split more', () => {
    const pieces = (rig: Rig): number => rig.drawings[0]!.geometry.shapes[0]!.verbs.filter((v) => v === CUBIC).length
    const puppet = limb('volume', 40)
    const one = run(puppet, bindBlended, { part: 'limb', bones: ['upper'], field: autoWeights(puppet, 'limb', ['upper']) })
    expect(pieces(compile(one))).toBeLessThan(pieces(compile(puppet)))
    const limited = { ...puppet, bones: { ...puppet.bones, lower: { ...puppet.bones['lower']!, limits: { min: -1, max: 1 } } } }
    expect(pieces(compile(limited))).toBeLessThanOrEqual(pieces(compile(puppet)))
  })

  test('pieces meet without a corner wherever the drawn curve has none', () => {
    const rig = compile(limb('volume', 40))
    const { shapes } = rig.drawings[0]!.geometry
    const points = poseRig(rig, { 'bone/lower/angle': 110 }).points[0]!
    const { verbs } = shapes[0]!
    let at = 1
    for (let k = 1; k < verbs.length - 2; k++, at += 3) {
      const into = Math.atan2(points[2 * (at + 2) + 1]! - points[2 * (at + 1) + 1]!, points[2 * (at + 2)]! - points[2 * (at + 1)]!)
      const out = Math.atan2(points[2 * (at + 3) + 1]! - points[2 * (at + 2) + 1]!, points[2 * (at + 3)]! - points[2 * (at + 2)]!)
      expect(Math.abs(Math.sin(into - out))).toBeLessThan(1e-6)
    }
  })

  test('a part that sits turned and scaled bends as one that does not', () => {
    const puppet = armPuppet()
    const bones = ['upper', 'lower']
    const scaled = run(puppet, setHome, { part: 'sleeve', home: { x: 50, y: -50, angle: 0, scaleX: 0.5, scaleY: 0.5, skew: 0 } })
    const bound = run(scaled, bindBlended, { part: 'sleeve', bones, field: autoWeights(scaled, 'sleeve', bones) })
    const rig = compile(bound)
    const points = poseRig(rig, {}).points[0]!
    rig.drawings[0]!.geometry.points.forEach((v, i) => expect(points[i]).toBeCloseTo(v * 0.5 + (i % 2 === 0 ? 50 : -50), 6))
  })
})

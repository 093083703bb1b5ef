/** Masks and swaps against the truth of their pixels. */
import type { CanvasKit } from 'canvaskit-wasm'
import { beforeAll, describe, expect, test } from 'vitest'
import { newPuppet } from '@marionette/core/puppet/new'
import type { Drawing, Mask, Path, Puppet } from '@marionette/core/puppet/schema'
import { run } from '@marionette/core/puppet/edit'
import { setMasks } from '@marionette/core/layering/commands'
import { setPartOpacity, showPart } from '@marionette/core/parts/commands'
import { makeSwap } from '@marionette/core/alternates/commands'
import { polygonPath } from '@marionette/core/maths/geometry/path'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { drawingPart } from '@marionette/core/test/puppets'
import { readOpenRaster } from '@marionette/formats/openraster/read'
import { openZip } from '@marionette/formats/zip'
import { loadCanvasKit } from './node'
import { exportOpenRaster } from '@marionette/authoring/openraster'
import { renderPixels } from './pixels'
import { newPart } from '@marionette/core/parts/new'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const SIZE = 120
const shape = (part: string, path: Path, colour: string): Drawing => ({
  id: `d-${part}`,
  shapes: [
    {
      ...{ id: 0, alpha: 1, lineFirst: false, paths: [path], line: null },
      ink: { paint: { kind: 'flat', colour }, alpha: 1, rule: 'nonzero' },
    },
  ],
})
const rhomb = (x: number, y: number, r: number): Path => polygonPath([x, y - r, x + r, y + 3, x + 2, y + r, x - r, y - 1])

/** A picture, a slanted shape to mask it, one to mask that one, and a group of two shapes that may be a swap. */
function scene(): Puppet {
  const drawings = [
    shape('picture', polygonPath([13.3, 20.7, 101.2, 11.1, 108.4, 97.9, 22.6, 103.2]), '#c2402c'),
    shape('mask', rhomb(61.4, 55.2, 37.3), '#112233'),
    shape('second', rhomb(48.1, 70.6, 30.2), '#445566'),
    shape('left', polygonPath([10, 10, 55.5, 10, 55.5, 110, 10, 110]), '#000000'),
    shape('right', polygonPath([64.5, 10, 110, 10, 110, 110, 64.5, 110]), '#000000'),
  ]
  const puppet = newPuppet('p', 'P', { width: SIZE, height: SIZE })
  const partOf = (d: Drawing) => {
    const id = d.id.slice('d-'.length)
    return { ...drawingPart(id, id, d), parent: id === 'left' || id === 'right' ? 'group' : null }
  }
  const made = run(puppet, addArtwork, {
    parent: puppet.root,
    parts: [newPart('group', 'Group'), ...drawings.map((d) => partOf(d))],
    drawings,
  })
  return run(made, showPart, { parts: ['mask', 'second', 'group'], visible: false })
}

const pixels = (puppet: Puppet, pose: Record<string, number> = {}): Uint8Array | Uint8ClampedArray =>
  renderPixels(CK, poseRig(compile(puppet), pose), { region: { minX: 0, minY: 0, maxX: SIZE, maxY: SIZE }, scale: 2 }).data
const alpha = (puppet: Puppet, pose?: Record<string, number>): number[] => {
  const data = pixels(puppet, pose)
  return Array.from({ length: data.length / 4 }, (_, i) => data[4 * i + 3]!)
}
const masked = (puppet: Puppet, mask: Partial<Mask>): Puppet =>
  run(puppet, setMasks, { part: 'picture', masks: [{ shape: 'mask', keep: 'inside', by: 'area', ...mask }] })

/** How far two halves are from making up the whole, alpha from 0 to 255. */
const gap = (whole: number[], a: number[], b: number[]): number => Math.max(...whole.map((v, i) => Math.abs(v - a[i]! - b[i]!)))
const sum = (list: number[]): number => list.reduce((s, v) => s + v, 0)

describe('inside and outside', () => {
  test.each([
    ['by area', {}],
    ['by all of its paint', { by: 'paint' as const }],
    ['with a soft edge', { soft: 8 }],
  ])('%s they part the picture: together they are all of it, and neither is', (_, mask) => {
    const whole = alpha(scene())
    const [inside, outside] = (['inside', 'outside'] as const).map((keep) => alpha(masked(scene(), { ...mask, keep }))) as [
      number[],
      number[],
    ]
    expect(gap(whole, inside, outside)).toBeLessThanOrEqual(2)
    for (const part of [inside, outside]) expect(sum(part)).toBeGreaterThan(0.2 * sum(whole))
    for (const part of [inside, outside]) expect(sum(part)).toBeLessThan(0.8 * sum(whole))
  })

  test('a soft edge fades over its width; a crisp one does not', () => {
    const partly = (soft: number): number => alpha(masked(scene(), { soft })).filter((v) => v > 16 && v < 239).length
    expect(partly(10)).toBeGreaterThan(4 * partly(0))
    expect(partly(20)).toBeGreaterThan(1.5 * partly(10))
  })

  test('under opacity of the part they still part it, at half the strength', () => {
    const half = run(scene(), setPartOpacity, { part: 'picture', opacity: 0.5 })
    const parts = (['inside', 'outside'] as const).map((keep) => alpha(masked(half, { keep }))) as [number[], number[]]
    expect(gap(alpha(half), parts[0], parts[1])).toBeLessThanOrEqual(2)
    expect(Math.max(...parts[0])).toBeLessThanOrEqual(129)
  })

  test('a mask that is masked itself lets through only what both do', () => {
    const both = run(masked(scene(), {}), setMasks, { part: 'mask', masks: [{ shape: 'second', keep: 'inside', by: 'area' }] })
    const [one, other] = [alpha(masked(scene(), {})), alpha(masked(scene(), { shape: 'second' }))]
    const seen = alpha(both)
    expect(Math.max(...seen.map((v, i) => v - Math.min(one[i]!, other[i]!)))).toBeLessThanOrEqual(2)
    const certain = seen.filter((_, i) => one[i] === 255 && other[i] === 255)
    expect(certain.length).toBeGreaterThan(500)
    expect(certain.every((v) => v === 255)).toBe(true)
  })

  test('several masks count together', () => {
    const puppet = run(scene(), setMasks, {
      part: 'picture',
      masks: [
        { shape: 'mask', keep: 'inside', by: 'area' },
        { shape: 'second', keep: 'outside', by: 'area' },
      ],
    })
    const [one, other] = [alpha(masked(scene(), {})), alpha(masked(scene(), { shape: 'second', keep: 'outside' }))]
    alpha(puppet).forEach((v, i) => {
      if (one[i] === 0 || other[i] === 0) expect(v).toBeLessThanOrEqual(1)
      if (one[i] === 255 && other[i] === 255) expect(v).toBeGreaterThanOrEqual(254)
    })
  })
})

describe('swaps', () => {
  test('as masks let through what the alternate does that shows', () => {
    const swap = run(masked(scene(), { shape: 'group' }), makeSwap, { group: 'group' })
    const column = (pose: Record<string, number>, x: number): number => alpha(swap, pose)[2 * 60 * 2 * SIZE + 2 * x]!
    expect([column({ 'part/group/alternate': 1 }, 40), column({ 'part/group/alternate': 1 }, 80)]).toEqual([255, 0])
    expect([column({ 'part/group/alternate': 2 }, 40), column({ 'part/group/alternate': 2 }, 80)]).toEqual([0, 255])
    expect(sum(alpha(swap, { 'part/group/alternate': 0 }))).toBe(0)
  })

  test('morph in pixels as they do in points: the ends are the alternates themselves', () => {
    const swap = run(run(scene(), showPart, { parts: ['group'], visible: true }), makeSwap, { group: 'group' })
    const shown = (pose: Record<string, number>): number[] => [...pixels(swap, pose)]
    const morphing = (way: number): number[] => shown({ 'part/group/alternate': 2, 'part/group/before': 1, 'part/group/way': way })
    expect(morphing(0)).toEqual(shown({ 'part/group/alternate': 1 }))
    expect(morphing(1)).toEqual(shown({ 'part/group/alternate': 2 }))
    expect(morphing(0.5)).not.toEqual(morphing(0))
  })

  test('leave as OpenRaster with all alternates, those that do not show hidden', () => {
    const swap = run(run(scene(), showPart, { parts: ['group'], visible: true }), makeSwap, { group: 'group' })
    const layers = readOpenRaster(openZip(exportOpenRaster(CK, swap, () => undefined))).layers
    const group = layers.find((l) => l.name === 'Group')!
    expect(group).toMatchObject({
      children: [
        { name: 'left', visible: false },
        { name: 'right', visible: true },
      ],
    })
  })
})

import { describe, expect, test } from 'vitest'
import { sendPiece } from '../cutting/commands'
import { drawingBy } from '../artwork/art'
import { cutDrawing } from '../artwork/cutDrawing'
import type { Drawing, Puppet } from '../puppet/schema'
import { addArtwork } from '../puppet/artworkCommands'
import { newPuppet } from '../puppet/new'
import { run } from '../puppet/edit'
import { polygonPath } from '../maths/geometry/path'
import type { Area } from '../maths/geometry/booleans'
import { drawingPart } from '../test/puppets'
import { addJoint } from './commands'
import { attachedAt, cutPivot } from './attachment'

const drawn = (id: string, ...anchors: number[]): Drawing => ({
  id,
  shapes: [
    {
      ...{ id: 0, alpha: 1, lineFirst: false, line: null, paths: [polygonPath(anchors)] },
      ink: { paint: { kind: 'flat', colour: '#557788' }, alpha: 1, rule: 'nonzero' },
    },
  ],
})

const box = (x: number, y: number, width: number, height: number): number[] => [x, y, x + width, y, x + width, y + height, x, y + height]

/** A body with an arm that reaches to the right, all one drawing. */
function figure(): Puppet {
  const puppet = newPuppet('p', 'Figure', { width: 600, height: 600 })
  const body = drawn('body-art', 100, 100, 200, 100, 200, 200, 500, 200, 500, 240, 200, 240, 200, 500, 100, 500)
  return run(puppet, addArtwork, { parent: puppet.root, parts: [drawingPart('body', 'Body', body)], drawings: [body] })
}

/** Cuts what lies right of x, and left of another x, out of a part. */
function cutRight(puppet: Puppet, source: string, x: number, id: string, keep = false, to = 600) {
  const area: Area = { rule: 'nonzero', paths: [polygonPath(box(x, 0, to - x, 600))] }
  const drawing = drawingBy(puppet, puppet.parts[source]!.art['front']!)!
  const { inside, outside } = cutDrawing(drawing, area)
  const after = run(puppet, sendPiece, {
    ...{ source, view: 'front', to: { kind: 'new', id, name: id, role: null } },
    piece: { drawing: { id: `${id}-art`, shapes: [...inside] } },
    rest: keep ? null : { drawing: { ...drawing, shapes: [...outside] } },
  })
  return { after, spot: cutPivot(puppet, after, { source, area, piece: id }, new Set([id])) }
}

describe('the pivot of a piece that was cut', () => {
  test('lies where it was cut off', () => {
    expect(cutRight(figure(), 'body', 300, 'arm').spot).toMatchObject({ x: expect.closeTo(300, 0), y: expect.closeTo(220, 0) })
  })

  test('lies there too where the source stays whole', () => {
    expect(cutRight(figure(), 'body', 300, 'arm', true).spot).toMatchObject({ x: expect.closeTo(300, 0), y: expect.closeTo(220, 0) })
  })

  test('of a piece between two others lies at the larger one', () => {
    const { after } = cutRight(figure(), 'body', 440, 'hand')
    expect(cutRight(after, 'body', 300, 'forearm').spot).toMatchObject({ x: expect.closeTo(300, 0), y: expect.closeTo(220, 0) })
  })

  test('of a piece out of the middle lies towards the larger rest', () => {
    expect(cutRight(figure(), 'body', 260, 'upper', true, 360).spot).toMatchObject({ x: expect.closeTo(260, 0), y: expect.closeTo(220, 0) })
  })

  test('is the middle of what touches nothing', () => {
    const alone = drawn('eye-art', ...box(20, 20, 40, 20))
    const puppet = run(figure(), addArtwork, { parent: figure().root, parts: [drawingPart('eye', 'Eye', alone)], drawings: [alone] })
    const area: Area = { rule: 'nonzero', paths: [polygonPath(box(10, 10, 60, 60))] }
    const after = run(puppet, sendPiece, {
      ...{ source: 'eye', view: 'front', to: { kind: 'new', id: 'copy', name: 'Copy', role: null } },
      ...{ piece: { drawing: { ...alone, id: 'copy-art' } }, rest: null },
    })
    expect(cutPivot(puppet, after, { source: 'eye', area, piece: 'copy' }, new Set(['copy']))).toEqual({ x: 40, y: 30 })
  })
})

describe('where a part is attached', () => {
  const tail = drawn('tail-art', ...box(190, 380, 200, 30))
  const withTail = run(figure(), addArtwork, { parent: figure().root, parts: [drawingPart('tail', 'Tail', tail)], drawings: [tail] })

  test('is where it meets the other artwork, not its loose end', () => {
    const spot = attachedAt(withTail, 'tail')!
    expect(spot.x).toBeCloseTo(195, 0)
    expect(spot.y).toBeCloseTo(395, 0)
  })

  test('is its joint where it has one', () => {
    const joined = run(withTail, addJoint, { id: 'j', under: 'body', over: 'tail', at: { x: 210, y: 390 }, radius: 12 })
    expect(attachedAt(joined, 'tail')).toEqual({ x: 210, y: 390 })
  })

  test('is not told for what lies on something as a whole', () => {
    const patch = drawn('patch-art', ...box(120, 120, 40, 40))
    const puppet = run(withTail, addArtwork, { parent: withTail.root, parts: [drawingPart('patch', 'Patch', patch)], drawings: [patch] })
    expect(attachedAt(puppet, 'patch')).toBeNull()
  })
})

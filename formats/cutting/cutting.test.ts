import { describe, expect, test } from 'vitest'
import { sequentialIds } from '@marionette/core/kernel/ids'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import type { Puppet } from '@marionette/core/puppet/schema'
import { polygonPath } from '@marionette/core/maths/geometry/path'
import { run } from '@marionette/core/puppet/edit'
import { sendPiece } from '@marionette/core/cutting/commands'
import { changeArt } from '@marionette/core/joints/commands'
import { decodePng } from '../pixels'
import { readPuppetFile } from '../read'
import { ora, png } from '../test/bytes'
import { cutArt } from './cut'
import { filledArt, splitArt } from './layers'
import { drawingBy } from '@marionette/core/artwork/art'

const INK = [30, 20, 20, 255]
/** A bar of 60 by 30 with an outline of 3 px, at (20, 10). */
const bar = png(60, 30, (x, y) => (Math.min(x, 59 - x, y, 29 - y) < 3 ? INK : [220, 160, 90, 255]))
const read = () =>
  readPuppetFile(
    ora('<image w="120" h="60"><stack><layer name="Bar" src="a.png" x="20" y="10"/></stack></image>', { 'a.png': bar }),
    'b.ora',
    { ids: sequentialIds('b') },
  )
const only = (puppet: Puppet) => Object.values(puppet.parts).find((p) => p.name === 'Bar')!
const box = (l: number, t: number, r: number, b: number) => ({ paths: [polygonPath([l, t, r, t, r, b, l, b])], rule: 'nonzero' as const })

describe('cutting a picture of a puppet', () => {
  test('both pieces lie where they lay, and land as parts that hold together', () => {
    const { puppet, assets } = read()
    const part = only(puppet)
    const cut = cutArt(puppet, part.art['front']!, box(50, 0, 200, 60), 'piece', (h) => assets.get(h))
    const piece = cut.piece && 'picture' in cut.piece ? cut.piece.picture : null
    const rest = cut.rest && 'picture' in cut.rest ? cut.rest.picture : null
    expect(piece).toMatchObject({ x: 50, y: 10, width: 30, height: 30 })
    expect(rest).toMatchObject({ x: 20, y: 10, height: 30 })
    const done = run(puppet, sendPiece, {
      source: part.id,
      view: 'front',
      piece: cut.piece!,
      rest: cut.rest,
      to: { kind: 'new', id: 'new', name: 'Half', role: null },
    })
    expect(brokenInvariants(done)).toEqual([])
    expect(done.parts[puppet.root]!.children).toEqual([part.id, 'new'])
    expect(() =>
      run(done, sendPiece, { source: part.id, view: 'front', piece: cut.piece!, rest: null, to: { kind: 'part', part: 'new' } }),
    ).toThrow('takes a piece as the picture with the piece in it')
    expect(() =>
      run(done, sendPiece, { source: part.id, view: 'side', piece: cut.piece!, rest: null, to: { kind: 'part', part: 'new' } }),
    ).toThrow('shows nothing in this view')
  })

  test('an area beside it cuts nothing', () => {
    const { puppet, assets } = read()
    expect(cutArt(puppet, only(puppet).art['front']!, box(100, 0, 110, 60), 'piece', (h) => assets.get(h)).piece).toBeNull()
  })

  test('a drawing piece joins the shapes of a part that exists, in that part’s own space', () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="A" width="40" height="40"/><g id="B" transform="translate(10 5) scale(2)"><rect id="C" x="20" y="20" width="10" height="10"/></g></svg>'
    const { puppet } = readPuppetFile(new TextEncoder().encode(svg), 'a.svg', { ids: sequentialIds('s') })
    const named = (name: string) => Object.values(puppet.parts).find((p) => p.name === name)!
    const cut = cutArt(puppet, named('A').art['front']!, box(0, 0, 20, 100), 'piece', () => undefined)
    const done = run(puppet, sendPiece, {
      source: named('A').id,
      view: 'front',
      piece: cut.piece!,
      rest: cut.rest,
      to: { kind: 'part', part: named('C').id },
    })
    const shapes = drawingBy(done, named('C').art['front']!)!.shapes
    expect(shapes).toHaveLength(2)
    expect(Math.max(...shapes[1]!.paths[0]!.anchors.filter((_, i) => i % 2 === 0))).toBeLessThanOrEqual(20)
    expect(brokenInvariants(done)).toEqual([])
    const ids = shapes.flatMap((s) => s.paths.flatMap((p) => p.ids))
    expect(new Set(ids).size).toBe(ids.length)
  })
})

describe('line and colour apart', () => {
  test('of a picture: lines keep their coverage, colour is filled where they were', () => {
    const { puppet, assets } = read()
    const split = splitArt(puppet, only(puppet).art['front']!, 'line', 0.3, (h) => assets.get(h))
    const pixels = (art: typeof split.piece) => {
      const picture = art && 'picture' in art ? art.picture : null
      return { picture: picture!, raster: decodePng(split.assets.get(picture!.asset)!, 'x') }
    }
    const line = pixels(split.piece)
    const colour = pixels(split.rest)
    const at = ({ picture, raster }: typeof line, x: number, y: number) => [
      ...raster.data.slice(4 * ((y - picture.y) * raster.width + x - picture.x), 4 * ((y - picture.y) * raster.width + x - picture.x) + 4),
    ]
    expect(at(line, 21, 25)).toEqual(INK)
    expect(at(line, 50, 25)[3]).toBe(0)
    expect(at(colour, 21, 25)).toEqual([220, 160, 90, 255])
    expect(at(colour, 50, 25)).toEqual([220, 160, 90, 255])
  })

  test('of a drawing: exactly, and nothing of one without lines', () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="A" width="40" height="40" fill="#fff" stroke="#000"/><rect id="B" width="40" height="40"/></svg>'
    const { puppet } = readPuppetFile(new TextEncoder().encode(svg), 'a.svg', { ids: sequentialIds('s') })
    const art = (name: string): string => Object.values(puppet.parts).find((p) => p.name === name)!.art['front']!
    const split = splitArt(puppet, art('A'), 'line', 0.3, () => undefined)
    expect(split.piece).toMatchObject({ drawing: { id: 'line', shapes: [{ ink: null }] } })
    expect(split.rest).toMatchObject({ drawing: { shapes: [{ line: null }] } })
    expect(splitArt(puppet, art('B'), 'line', 0.3, () => undefined).piece).toBeNull()
  })
})

describe('filling what is missing', () => {
  test('a picture grows into the area, in its own colours', () => {
    const { puppet, assets } = read()
    const part = only(puppet)
    const cut = cutArt(puppet, part.art['front']!, box(50, 14, 200, 36), 'piece', (h) => assets.get(h))
    const holed = run(puppet, changeArt, { drawings: [], pictures: [cut.rest && 'picture' in cut.rest ? cut.rest.picture : null!] })
    const bytes = new Map([...assets, ...cut.assets])
    const filled = filledArt(holed, part.art['front']!, box(49, 15, 70, 35), (h) => bytes.get(h))!
    const raster = decodePng(filled.assets.get(filled.picture!.asset)!, 'x')
    const i = 4 * ((25 - filled.picture!.y) * raster.width + 60 - filled.picture!.x)
    expect([...raster.data.slice(i, i + 4)]).toEqual([220, 160, 90, 255])
  })

  test('a drawing is united with it, and refuses what does not meet it', () => {
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="A" width="40" height="40"/></svg>'
    const { puppet } = readPuppetFile(new TextEncoder().encode(svg), 'a.svg', { ids: sequentialIds('s') })
    const art = Object.values(puppet.parts).find((p) => p.name === 'A')!.art['front']!
    // A part's own space has its middle at the middle of what it shows.
    const filled = filledArt(puppet, art, box(10, -10, 40, 10), () => undefined)!
    expect(Math.max(...filled.drawing!.shapes[0]!.paths[0]!.anchors)).toBeCloseTo(40)
    expect(filledArt(puppet, art, box(50, -10, 60, 10), () => undefined)).toBeNull()
  })
})

import { describe, expect, test } from 'vitest'
import { IDENTITY } from '@marionette/core/maths/geometry/affine'
import { polygonPath } from '@marionette/core/maths/geometry/path'
import type { Area } from '@marionette/core/maths/geometry/booleans'
import type { Affine, Picture } from '@marionette/core/puppet/schema'
import { cutRaster } from '@marionette/core/artwork/cutPicture'
import { padded, type Raster } from '@marionette/core/maths/geometry/raster'
import { decodePng } from '../pixels'
import { storedPicture } from '../storedPicture'
import { png } from '../test/bytes'
import { joinedPicture } from './join'

const WIDTH = 60
const HEIGHT = 40
const source = decodePng(
  png(WIDTH, HEIGHT, (x, y) => (Math.hypot(x - 30, y - 20) < 18 ? [100 + 2 * x, 60 + 3 * y, 90, 255] : [0, 0, 0, 0])),
  'x',
)
/** A slanting cut, so that its edge runs through pixels. */
const area: Area = { rule: 'nonzero', paths: [polygonPath([-10, -10, 24.3, -10, 36.7, 60, -10, 60])] }
const opposite: Area = { rule: 'nonzero', paths: [polygonPath([24.3, -10, 90, -10, 90, 60, 36.7, 60])] }

const bytes = new Map<string, Uint8Array>()
function store(id: string, raster: Raster, scale = 1): Picture {
  const made = storedPicture(id, raster, { x: 0, y: 0, scale })!
  bytes.set(made.picture.asset, made.png)
  return made.picture
}
const join = (target: Picture, piece: Picture, place: Affine) => joinedPicture(target, piece, place, (hash) => bytes.get(hash))

/** The joined picture as pixels of the source. */
function spread({ picture, png: made }: NonNullable<ReturnType<typeof join>>): Raster {
  const pixels = decodePng(made, 'x')
  return padded(pixels, picture.x, picture.y, WIDTH - picture.x - pixels.width, HEIGHT - picture.y - pixels.height)
}

/** How far two rasters are off each other at most, opacity and premultiplied colour. */
function off(a: Raster, b: Raster): number {
  let most = 0
  for (let i = 0; i < a.data.length; i += 4)
    for (let c = 0; c < 4; c++) {
      const [p, q] = [a, b].map(({ data }) => (c === 3 ? data[i + 3]! : (data[i + c]! * data[i + 3]!) / 255)) as [number, number]
      most = Math.max(most, Math.abs(p - q))
    }
  return most
}

describe('a piece in another picture', () => {
  test.each([
    ['cut out of what was left', (): [Raster, Raster] => [cutRaster(source, area).inside, cutRaster(source, area).outside]],
    ['taken from what stayed whole', (): [Raster, Raster] => [cutRaster(source, area).inside, cutRaster(source, opposite).inside]],
  ])('%s gives the whole again, without a seam', (_, pieces) => {
    const [first, second] = pieces()
    const target = store('target', first)
    const joined = join(target, store('bit', second), IDENTITY)!
    expect(joined.picture.id).toBe('target')
    expect(off(spread(joined), source)).toBeLessThanOrEqual(2)
  })

  test('grows the picture to every side and leaves what was there in its place', () => {
    const target = store('target', cutRaster(source, opposite).inside)
    const joined = join(target, store('bit', cutRaster(source, area).inside), [1, 0, 0, 1, -7, 3])!
    expect(joined.picture.x).toBe(store('bit', cutRaster(source, area).inside).x - 7)
    const at = (x: number, y: number): number[] => {
      const { data, width } = decodePng(joined.png, 'x')
      return [...data.slice(4 * ((y - joined.picture.y) * width + x - joined.picture.x)).slice(0, 4)]
    }
    expect(at(44, 20)).toEqual([188, 120, 90, 255])
    expect(at(20 - 7, 20 + 3)).toEqual([140, 120, 90, 255])
  })

  test('is read between pixels where its part is turned or larger, with its own edge', () => {
    const target = store('target', cutRaster(source, opposite).inside)
    const joined = join(target, store('bit', source), [0, 2, -2, 0, 60, 0])!
    const { data } = decodePng(joined.png, 'x')
    const colours = new Set<number>()
    for (let i = 0; i < data.length; i += 4) if (data[i + 3]! > 0) colours.add(data[i + 2]!)
    // No darkness creeps in from what is transparent.
    expect([...colours].every((blue) => Math.abs(blue - 90) <= 1)).toBe(true)
    // As wide and high as both together.
    expect([joined.picture.width, joined.picture.height]).toEqual([70, 93])
  })

  test('cannot be put into what is missing, or be flat', () => {
    const target = store('target', source)
    expect(join({ ...target, asset: 'gone' }, target, IDENTITY)).toBeNull()
    expect(join(target, target, [1, 0, 0, 0, 0, 0])).toBeNull()
  })
})

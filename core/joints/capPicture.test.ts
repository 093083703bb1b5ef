import { describe, expect, test } from 'vitest'
import { coverageOf } from '../maths/geometry/coverage'
import { newRaster, type Raster } from '../maths/geometry/raster'
import { capsule } from '../test/capsule'
import { capPicture } from './capPicture'

const SIZE = { width: 200, height: 120 }
const ELBOW = { centre: { x: 120, y: 60 }, radius: 24 }
const SKIN = [204, 136, 68]

/** A painted limb with round ends: a dark line of 4 px inside its rim. */
function painted(fromX: number, toX: number): Raster {
  const area = (radius: number): Float32Array => {
    const { paths } = capsule('c', { x: fromX, y: 60 }, { x: toX, y: 60 }, radius).shapes[0]!
    return coverageOf({ paths, rule: 'nonzero' }, SIZE.width, SIZE.height)
  }
  const [all, within] = [area(24), area(20)]
  const out = newRaster(SIZE.width, SIZE.height)
  for (let i = 0; i < all.length; i++) {
    const share = all[i]! > 0 ? within[i]! / all[i]! : 0
    SKIN.forEach((c, k) => (out.data[4 * i + k] = Math.round(c * share + 24 * (1 - share))))
    out.data[4 * i + 3] = Math.round(255 * all[i]!)
  }
  return out
}

const at = ({ data, width }: Raster, x: number, y: number): number[] => [...data.slice(4 * (y * width + x), 4 * (y * width + x) + 4)]

describe('a picture of a limb that was painted round', () => {
  test('stays as it is where it lies below', () => {
    const limb = painted(40, 120)
    const { raster, left, top } = capPicture(limb, ELBOW, 'under', { threshold: 0.35 })
    expect(raster.width).toBeGreaterThanOrEqual(limb.width)
    for (const [x, y] of [
      [142, 60],
      [137, 77],
      [100, 60],
      [150, 60],
    ] as const)
      expect(at(raster, x + left, y + top)).toEqual(at(limb, x, y))
  })

  test('loses its outline at the joint where it lies on top, and keeps it elsewhere', () => {
    const limb = painted(120, 180)
    const { raster, left, top } = capPicture(limb, ELBOW, 'over', { threshold: 0.35 })
    for (const angle of [100, 130, 180, 220, 260]) {
      const a = (angle * Math.PI) / 180
      const near = (r: number): number[] => at(raster, Math.round(120 + r * Math.cos(a)) + left, Math.round(60 - r * Math.sin(a)) + top)
      expect(near(23)[3], `at ${angle}`).toBeLessThan(40)
      const colour = near(17)
      expect(colour[3]).toBe(255)
      SKIN.forEach((c, k) => expect(Math.abs(colour[k]! - c), `at ${angle}`).toBeLessThan(30))
    }
    expect(at(raster, 150 + left, 38 + top)[0]).toBeLessThan(60)
  })

  test('shows nothing beyond the disc that was not there', () => {
    for (const layering of ['under', 'over'] as const) {
      const limb = layering === 'under' ? painted(40, 132) : painted(108, 180)
      const { raster, left, top } = capPicture(limb, ELBOW, layering, { threshold: 0.35 })
      const beyond = layering === 'under' ? 120 + 26 : 120 - 26
      expect(at(limb, beyond, 60)[3]).toBe(255)
      expect(at(raster, beyond + left, 60 + top)[3]).toBe(0)
      expect(at(raster, 120 + (layering === 'under' ? 14 : -14) + left, 60 + top)[3]).toBe(255)
    }
  })
})

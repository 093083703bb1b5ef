import { describe, expect, test } from 'vitest'
import { newRaster, type Raster } from '../maths/geometry/raster'
import { findFigures } from './figures'
import { withoutPaper } from './paper'

type Colour = readonly [number, number, number, number]

/** A raster with discs and boxes on a ground, edges covered by share of 4 by 4 spots. */
function sheet(
  width: number,
  height: number,
  ground: Colour,
  shapes: readonly { in: (x: number, y: number) => boolean; colour: Colour }[],
): Raster {
  const out = newRaster(width, height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let colour: number[] = [...ground]
      for (const shape of shapes) {
        let hits = 0
        for (let k = 0; k < 16; k++) if (shape.in(x + ((k % 4) + 0.5) / 4, y + (Math.floor(k / 4) + 0.5) / 4)) hits++
        const share = hits / 16
        const alpha = share + (colour[3]! / 255) * (1 - share)
        colour = [0, 1, 2].map((c) =>
          alpha === 0 ? 0 : (shape.colour[c]! * share + colour[c]! * (colour[3]! / 255) * (1 - share)) / alpha,
        )
        colour.push(255 * alpha)
      }
      out.data.set(colour.map(Math.round), 4 * (y * width + x))
    }
  return out
}

const box = (l: number, t: number, r: number, b: number) => (x: number, y: number) => x >= l && x < r && y >= t && y < b
const disc = (cx: number, cy: number, r: number) => (x: number, y: number) => Math.hypot(x - cx, y - cy) < r
const RED: Colour = [200, 40, 30, 255]
const CLEAR: Colour = [0, 0, 0, 0]
const PAPER: Colour = [250, 247, 240, 255]

describe('figures of a sheet', () => {
  /** Bodies with heads that float above them, a hat in the air, and one dot of dirt. */
  const three = [20, 120, 220].flatMap((x) => [
    { in: box(x, 60, x + 50, 180), colour: RED },
    { in: disc(x + 25, 36, 18), colour: RED },
  ])
  const shapes = [...three, { in: box(150, 4, 164, 9), colour: RED }, { in: box(300, 196, 301, 197), colour: RED }]

  test.each([
    ['transparent', CLEAR],
    ['paper', PAPER],
  ])('are found side by side on a %s ground', (_, ground) => {
    const found = findFigures(sheet(310, 200, ground, shapes))
    expect(found.map((f) => [f.box.x, f.box.width])).toEqual([
      [20, 50],
      [120, 50],
      [220, 50],
    ])
    expect(found[1]!.box.y).toBe(4)
    expect(found[0]!.feet).toEqual({ x: 45, y: 180 })
  })

  test('are read in rows, and an empty sheet has none', () => {
    const grid = [
      [120, 110],
      [10, 12],
      [12, 108],
      [118, 8],
    ].map(([x, y]) => ({ in: box(x!, y!, x! + 60, y! + 80), colour: RED }))
    expect(findFigures(sheet(200, 200, CLEAR, grid)).map((f) => [f.box.x, f.box.y])).toEqual([
      [10, 12],
      [118, 8],
      [12, 108],
      [120, 110],
    ])
    expect(findFigures(sheet(50, 50, PAPER, []))).toEqual([])
  })

  test('paper inside of a figure stays paper', () => {
    const ring = sheet(80, 80, PAPER, [
      { in: disc(40, 40, 30), colour: RED },
      { in: disc(40, 40, 14), colour: PAPER },
    ])
    const bare = withoutPaper(ring)
    expect(bare.data[4 * (40 * 80 + 40) + 3]).toBe(255)
    expect(bare.data[3]).toBe(0)
  })
})

test('without its paper a picture is what it was drawn as, edges included', () => {
  const shapes = [{ in: disc(40.3, 39.6, 25), colour: RED }]
  const wanted = sheet(80, 80, CLEAR, shapes)
  const bare = withoutPaper(sheet(80, 80, PAPER, shapes))
  let worst = 0
  for (let i = 0; i < 80 * 80; i++) {
    worst = Math.max(worst, Math.abs(bare.data[4 * i + 3]! - wanted.data[4 * i + 3]!))
    if (bare.data[4 * i + 3]! > 8) for (let k = 0; k < 3; k++) expect(Math.abs(bare.data[4 * i + k]! - RED[k]!)).toBeLessThan(4)
  }
  // A faint rim of up to a tenth looks like paper.
  expect(worst).toBeLessThan(28)
  expect(withoutPaper(wanted)).toBe(wanted)
})

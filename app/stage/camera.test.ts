import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { downBelowBar, frameRegion, LARGEST_ZOOM, panBy, SMALLEST_ZOOM, toCanvas, toScreen, zoomAt } from './camera'

const coordinate = fc.double({ min: -2000, max: 2000, noNaN: true })
const camera = fc.record({ zoom: fc.double({ min: 0.05, max: 60, noNaN: true }), x: coordinate, y: coordinate })

describe('camera', () => {
  test('screen and canvas are inverse to each other', () => {
    fc.assert(
      fc.property(camera, coordinate, coordinate, (c, x, y) => {
        const back = toCanvas(c, toScreen(c, { x, y }))
        expect(back.x).toBeCloseTo(x, 6)
        expect(back.y).toBeCloseTo(y, 6)
      }),
    )
  })

  test('zooming keeps what is under the pointer, whatever the factor', () => {
    fc.assert(
      fc.property(camera, coordinate, coordinate, fc.double({ min: 0.001, max: 1000, noNaN: true }), (c, x, y, factor) => {
        const before = toCanvas(c, { x, y })
        const zoomed = zoomAt(c, { x, y }, factor)
        const after = toCanvas(zoomed, { x, y })
        expect(Math.hypot(after.x - before.x, after.y - before.y) * zoomed.zoom).toBeLessThan(1e-3)
        expect(zoomed.zoom).toBeGreaterThanOrEqual(SMALLEST_ZOOM)
        expect(zoomed.zoom).toBeLessThanOrEqual(LARGEST_ZOOM)
      }),
    )
  })

  test('panning moves by screen pixels', () => {
    expect(toScreen(panBy({ zoom: 3, x: 1, y: 2 }, 10, -5), { x: 0, y: 0 })).toEqual({ x: 11, y: -3 })
  })

  test('framing shows a region whole, and small ones not larger than asked', () => {
    const box = { minX: 100, minY: -50, maxX: 700, maxY: 900 }
    const c = frameRegion(box, 760, 690)
    const a = toScreen(c, { x: box.minX, y: box.minY })
    const b = toScreen(c, { x: box.maxX, y: box.maxY })
    expect(Math.min(a.x, a.y)).toBeGreaterThan(0)
    expect(b.x).toBeLessThan(760)
    expect(b.y).toBeLessThan(690)
    expect(frameRegion({ minX: 0, minY: 0, maxX: 1, maxY: 1 }, 760, 690, { closest: 12 }).zoom).toBe(12)
  })
})

describe('a bar over the stage', () => {
  const box = { minX: 0, minY: 0, maxX: 400, maxY: 900 }

  test('what is framed keeps clear of it', () => {
    const camera = frameRegion(box, 760, 690, { barred: 44 })
    expect(toScreen(camera, { x: 0, y: 0 }).y).toBeGreaterThanOrEqual(40 + 44)
    expect(toScreen(camera, { x: 0, y: 900 }).y).toBeLessThan(690)
  })

  test('the view goes down as far as is covered, and not where nothing is', () => {
    expect(downBelowBar(50, 44)).toBe(38)
    expect(downBelowBar(120, 44)).toBe(0)
    // The head lies beside the screen: the view was moved to something else.
    expect(downBelowBar(-80, 44)).toBe(0)
    expect(downBelowBar(50, 0)).toBe(0)
  })
})

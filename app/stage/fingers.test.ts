import { expect, test } from 'vitest'
import { Fingers, isScroll } from './fingers'

test('small and sideways steps are scrolling, steps of a wheel and pinches zoom', () => {
  const wheel = (deltaX: number, deltaY: number, more = {}) => isScroll({ deltaX, deltaY, deltaMode: 0, ctrlKey: false, ...more })
  expect(wheel(0, 3.5)).toBe(true)
  expect(wheel(12, 80)).toBe(true)
  expect(wheel(0, 100)).toBe(false)
  expect(wheel(0, -120)).toBe(false)
  expect(wheel(0, 3, { deltaMode: 1 })).toBe(false)
  expect(wheel(0, 4, { ctrlKey: true })).toBe(false)
})

test('what lies between two fingers stays between them', () => {
  const fingers = new Fingers()
  fingers.put(1, { x: 100, y: 100 })
  fingers.put(2, { x: 200, y: 100 })
  let camera = { zoom: 1, x: 0, y: 0 }
  camera = fingers.moved(camera, 1, { x: 50, y: 120 })
  camera = fingers.moved(camera, 2, { x: 250, y: 120 })
  const seen = (x: number, y: number) => [camera.x + camera.zoom * x, camera.y + camera.zoom * y].map((v) => Math.round(v))
  expect(camera.zoom).toBeCloseTo(2, 1)
  expect(seen(150, 100)).toEqual([150, 120])
  fingers.lift(2)
  expect(fingers.count).toBe(1)
  expect(fingers.moved(camera, 1, { x: 0, y: 0 })).toEqual(camera)
})

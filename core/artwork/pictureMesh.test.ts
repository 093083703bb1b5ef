import { describe, expect, test } from 'vitest'
import { outlineOf } from '../parts/pictures'
import { smallestAngles } from '../test/meshes'
import { meshPicture, type Alpha } from './pictureMesh'

/** A picture whose pixels show where a test says so. */
function drawn(width: number, height: number, shows: (x: number, y: number) => boolean): Alpha {
  const alpha = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) if (shows(x + 0.5, y + 0.5)) alpha[y * width + x] = 255
  return { width, height, alpha }
}

const disc = (cx: number, cy: number, r: number) => (x: number, y: number) => (x - cx) ** 2 + (y - cy) ** 2 < r * r

/** Whether every pixel that shows lies in some triangle. */
function coversAll({ width, height, alpha }: Alpha, mesh: { vertices: number[]; triangles: number[] }): boolean {
  const left = new Uint8Array(alpha)
  const v = mesh.vertices
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => 2 * mesh.triangles[t + k]!) as [number, number, number]
    const xs = [v[a]!, v[b]!, v[c]!]
    const ys = [v[a + 1]!, v[b + 1]!, v[c + 1]!]
    const side = (i: number, j: number, x: number, y: number): number => (xs[j]! - xs[i]!) * (y - ys[i]!) - (ys[j]! - ys[i]!) * (x - xs[i]!)
    for (let y = Math.max(0, Math.floor(Math.min(...ys))); y < Math.min(height, Math.ceil(Math.max(...ys))); y++)
      for (let x = Math.max(0, Math.floor(Math.min(...xs))); x < Math.min(width, Math.ceil(Math.max(...xs))); x++) {
        const s = [side(0, 1, x + 0.5, y + 0.5), side(1, 2, x + 0.5, y + 0.5), side(2, 0, x + 0.5, y + 0.5)]
        if (s.every((d) => d >= -1e-6)) left[y * width + x] = 0
      }
  }
  return left.every((a) => a === 0)
}

describe('meshes of pictures', () => {
  const shapes: Record<string, Alpha> = {
    disc: drawn(200, 200, disc(100, 100, 90)),
    ring: drawn(300, 300, (x, y) => disc(150, 150, 140)(x, y) && !disc(150, 150, 80)(x, y)),
    limb: drawn(80, 400, (x, y) => x > 20 && x < 60 && y > 5 && y < 395),
    'thin line': drawn(300, 40, (x, y) => Math.abs(y - 20) < 1 && x > 10 && x < 290),
    wave: drawn(400, 200, (x, y) => Math.abs(y - 100 - 60 * Math.sin(x / 30)) < 15),
    star: drawn(400, 400, (x, y) => {
      const r = Math.hypot(x - 200, y - 200)
      return r < 110 + 80 * Math.cos(7 * Math.atan2(y - 200, x - 200))
    }),
    'all of it': drawn(64, 64, () => true),
  }

  test.each(Object.keys(shapes))('%s: all that shows is covered, and no angle is under 20 degrees but in sharp corners', (name) => {
    const mesh = meshPicture(shapes[name]!)
    expect(coversAll(shapes[name]!, mesh)).toBe(true)
    const { free, forced } = smallestAngles(mesh)
    expect(free).toBeGreaterThan(20)
    expect(forced).toBeGreaterThan(0)
    expect(mesh.triangles.length / 3).toBeLessThan(1500)
  })

  test('islands stay separate', () => {
    const two = drawn(200, 100, (x, y) => disc(50, 50, 30)(x, y) || disc(150, 50, 30)(x, y))
    const mesh = meshPicture(two)
    const picture = { id: 'p', asset: '0'.repeat(64), width: 200, height: 100, x: 0, y: 0, scale: 1, mesh }
    const { paths } = outlineOf(picture).shapes[0]!
    expect(paths).toHaveLength(2)
    for (const { anchors } of paths) {
      const xs = anchors.filter((_, i) => i % 2 === 0)
      expect(Math.max(...xs) < 100 || Math.min(...xs) > 100).toBe(true)
    }
  })

  test('a denser mesh has more triangles', () => {
    const count = (spacing: number): number => meshPicture(shapes['disc']!, { spacing }).triangles.length / 3
    expect(count(8)).toBeGreaterThan(2.5 * count(24))
  })

  test('nothing opaque gives two triangles over the whole', () => {
    expect(meshPicture(drawn(30, 20, () => false)).triangles).toHaveLength(6)
  })

  test('dust does not explode', () => {
    let seed = 7
    const dust = drawn(512, 512, () => (seed = (seed * 16807) % 2147483647) % 50 === 0)
    const mesh = meshPicture(dust)
    expect(coversAll(dust, mesh)).toBe(true)
    expect(mesh.triangles.length / 3).toBeLessThan(60000)
  })
})

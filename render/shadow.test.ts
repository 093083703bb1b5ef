import { decode } from 'fast-png'
import { describe, expect, test } from 'vitest'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import type { Puppet, Shadow } from '@marionette/core/puppet/schema'
import { newShadow } from '@marionette/core/staging/shadow'
import { importSvg } from '@marionette/formats/svg/import'
import { loadCanvasKit } from './node'
import { livingObjects } from './owned'
import { renderPng } from './png'

const CK = await loadCanvasKit()

/** A post of 20 by 60 px that stands on the line at 80. */
const { puppet } = importSvg(
  '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="post" x="30" y="20" width="20" height="60" fill="#ff0000"/></svg>',
  't',
)

function pixels(shadow: Shadow | null, only?: ReadonlySet<number>) {
  const shown: Puppet = { ...puppet, shadow }
  const image = decode(renderPng(CK, poseRig(compile(shown), {}), { width: 100, background: null, only }))
  return (x: number, y: number): number[] => [...image.data.slice((y * image.width + x) * 4, (y * image.width + x) * 4 + 4)]
}

const laid: Shadow = { ...newShadow('ground', 80, 60), length: 0.5, skew: 45, softness: 0, opacity: 1, colour: '#102030' }

describe('a shadow', () => {
  test('lies on the ground in its colour, under the figure, which looks as without it', () => {
    const [at, plain] = [pixels(laid), pixels(null)]
    // The top of the post, 60 px up, falls 30 px up and 30 px aside.
    expect(at(68, 52)).toEqual([0x10, 0x20, 0x30, 255])
    expect(plain(68, 52)).toEqual([0, 0, 0, 0])
    for (const [x, y] of [
      [40, 30],
      [40, 75],
      [48, 60],
    ] as const)
      expect(at(x, y)).toEqual(plain(x, y))
  })

  test('behind the figure it is shifted, as opaque as it says, and soft at its edge', () => {
    const at = pixels({ ...newShadow('behind', 80, 60), x: 30, y: 0, opacity: 0.5, softness: 8, colour: '#102030' })
    expect(at(70, 50)[3]).toBeGreaterThan(118)
    expect(at(70, 50)[3]).toBeLessThan(130)
    const edge = at(81, 50)[3]!
    expect(edge).toBeGreaterThan(10)
    expect(edge).toBeLessThan(100)
  })

  test('of parts by themselves there is none, and nothing of it stays behind', () => {
    const before = livingObjects()
    expect(pixels(laid, new Set([1]))(68, 52)).toEqual([0, 0, 0, 0])
    pixels({ ...laid, softness: 6 })
    expect(livingObjects()).toBe(before)
  })

  test('is cast by the puppet, not by scenery', () => {
    const { puppet: two } = importSvg(
      '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><rect id="wall" x="70" y="20" width="10" height="60" fill="#0000ff"/><rect id="post" x="30" y="20" width="20" height="60" fill="#ff0000"/></svg>',
      't',
    )
    const wall = Object.values(two.parts).find((p) => p.name === 'wall')!.id
    const shown: Puppet = { ...two, shadow: { ...laid, skew: 0 }, stage: { ...two.stage, scenery: [{ part: wall, where: 'background' }] } }
    const draw = (of: Puppet): Uint8Array | Uint16Array | Uint8ClampedArray =>
      decode(renderPng(CK, poseRig(compile({ ...of, shadow: { ...laid, skew: 0, y: 15 } }), {}), { width: 100, background: null })).data
    const at = (data: ArrayLike<number>, x: number, y: number): number[] =>
      Array.from({ length: 4 }, (_, k) => data[(y * 100 + x) * 4 + k]!)
    // Shifted down by 15, shadows show below what casts them.
    expect(at(draw(shown), 40, 90)).toEqual([0x10, 0x20, 0x30, 255])
    expect(at(draw(shown), 75, 90)).toEqual([0, 0, 0, 0])
    expect(at(draw({ ...shown, stage: two.stage }), 75, 90)).toEqual([0x10, 0x20, 0x30, 255])
  })
})

import { decode } from 'fast-png'
import { describe, expect, test } from 'vitest'
import { sequentialIds } from '@marionette/core/kernel/ids'
import { pictureOf } from '@marionette/core/parts/pictures'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { often } from '@marionette/core/test/often'
import { readPuppetFile, type ReadPuppet } from '../read'
import { psd } from '../test/bytes'

const read = (bytes: Uint8Array): ReadPuppet => readPuppetFile(bytes, 'art.psd', { ids: sequentialIds('t') })
const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!
const childNames = (puppet: Puppet, part: Part = puppet.parts[puppet.root]!): string[] => part.children.map((id) => puppet.parts[id]!.name)

function firstPixel({ puppet, assets }: ReadPuppet, name: string): number[] {
  const picture = pictureOf(puppet, named(puppet, name))!
  return [...decode(assets.get(picture.asset)!).data.slice(0, 4)]
}

describe('layered PSD', () => {
  const file = psd(
    100,
    80,
    [
      { name: 'Body', box: [10, 10, 40, 50], colour: [200, 100, 50, 255], id: 7 },
      { name: 'Shade', box: [0, 0, 100, 80], colour: [0, 0, 0, 128], clipped: true, blend: 'mul ', opacity: 0.5 },
      { name: '</Group>', section: 3 },
      { name: 'Hand', box: [60, 20, 10, 10], colour: [1, 2, 3, 255], mask: { box: [60, 20, 10, 5], grey: 255, beyond: 0 } },
      { name: 'Off', box: [95, -5, 20, 20], colour: [9, 9, 9, 255], hidden: true },
      { name: 'Arm left', section: 1, opacity: 0.8 },
    ],
    { guides: [25] },
  )
  const found = read(file)
  const { puppet } = found

  test('names, groups and order', () => {
    expect(childNames(puppet)).toEqual(['Body', 'Shade', 'Arm left'])
    expect(childNames(puppet, named(puppet, 'Arm left'))).toEqual(['Hand', 'Off'])
    expect(puppet.canvas).toMatchObject({ width: 100, height: 80 })
  })

  test('bounds, offsets off the canvas and pixels', () => {
    expect(restBounds(puppet, named(puppet, 'Body').id)).toEqual({ minX: 10, minY: 10, maxX: 50, maxY: 60 })
    expect(restBounds(puppet, named(puppet, 'Off').id)).toEqual({ minX: 95, minY: -5, maxX: 115, maxY: 15 })
    expect(firstPixel(found, 'Body')).toEqual([200, 100, 50, 255])
  })

  test('opacity, blend mode, visibility, guides and identity', () => {
    expect(named(puppet, 'Shade')).toMatchObject({ blend: 'multiply', opacity: 128 / 255 })
    expect(named(puppet, 'Off').visible).toBe(false)
    expect(named(puppet, 'Body').source).toMatchObject({ file: 'art.psd', key: '7', path: ['Body'] })
    expect(puppet.guides).toEqual([{ axis: 'x', at: 25 }])
  })

  test('clipping layers and layer masks become masks', () => {
    expect(named(puppet, 'Shade').masks).toEqual([{ shape: named(puppet, 'Body').id, keep: 'inside', by: 'paint' }])
    const hand = named(puppet, 'Hand')
    expect(hand.masks).toMatchObject([{ keep: 'inside', by: 'paint' }])
    expect(childNames(puppet, hand)).toEqual(['Hand picture', 'Hand mask'])
    expect(restBounds(puppet, hand.masks[0]!.shape)).toEqual({ minX: 60, minY: 20, maxX: 70, maxY: 25 })
  })

  test('a mask that shows beyond its edge hides by its dark', () => {
    const mask = { box: [0, 0, 4, 4], grey: 0, beyond: 255 } as const
    const { puppet: masked } = read(psd(20, 20, [{ name: 'A', box: [0, 0, 10, 10], colour: [1, 1, 1, 255], mask }]))
    expect(named(masked, 'A').masks).toMatchObject([{ keep: 'outside', by: 'paint' }])
  })

  test('16 bits and grey are converted', () => {
    const deep = read(psd(8, 8, [{ name: 'A', box: [0, 0, 4, 4], colour: [200, 100, 50, 255] }], { depth: 16 }))
    expect(firstPixel(deep, 'A')).toEqual([200, 100, 50, 255])
    const grey = read(psd(8, 8, [{ name: 'A', box: [0, 0, 4, 4], colour: [90, 0, 0, 255] }], { mode: 1 }))
    expect(firstPixel(grey, 'A')).toEqual([90, 90, 90, 255])
  })

  test('CMYK is refused with the reason', () => {
    expect(() => read(psd(8, 8, [], { mode: 4 }))).toThrow('in CMYK colours')
  })

  test('a file cut off anywhere gives one sentence, or what is whole of it', () => {
    for (let length = 4; length < file.length; length += often(211, 37)) {
      try {
        read(file.slice(0, length))
      } catch (error) {
        expect((error as Error).constructor.name).toBe('FormatError')
        expect((error as Error).message).toMatch(/^[A-Z].*\.$/)
      }
    }
  })
})

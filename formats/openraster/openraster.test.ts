import { decode } from 'fast-png'
import { describe, expect, test } from 'vitest'
import { sequentialIds } from '@marionette/core/kernel/ids'
import { pictureOf } from '@marionette/core/parts/pictures'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { restBounds } from '@marionette/core/parts/tree'
import { readPuppetFile, type ReadPuppet } from '../read'
import { ora, png } from '../test/bytes'
import { openZip } from '../zip'
import { readOpenRaster } from './read'
import { writeOpenRaster } from './write'

const read = (bytes: Uint8Array): ReadPuppet => readPuppetFile(bytes, 'art.ora', { ids: sequentialIds('t') })
const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!

const STACK = `<?xml version='1.0' encoding='UTF-8'?>
<image version="0.0.3" w="64" h="48" name="x"><stack>
  <stack name="Arm left" opacity="0.5" isolation="auto" composite-op="svg:multiply">
    <layer name="Hand" src="data/hand.png" x="40" y="-4" visibility="hidden" edit-locked="true"/>
    <layer name="Shade" src="data/body.png" composite-op="svg:src-atop"/>
    <layer name="Sleeve" src="data/sleeve.png" x="30" y="10" composite-op="svg:plus"/>
  </stack>
  <layer name="Body" src="data/body.png" x="3" y="5"/>
  <layer name="Again" src="data/body.png" x="3" y="5" composite-op="krz:strange"/>
</stack></image>`

const body = png(20, 20, (x, y) => (x >= 4 && x < 10 && y >= 6 && y < 16 ? [10, 20, 30, 255] : [0, 0, 0, 0]))
const file = ora(STACK, {
  'data/hand.png': png(8, 8, [1, 2, 3, 255]),
  'data/body.png': body,
  'data/sleeve.png': png(6, 20, [200, 0, 0, 128]),
})

describe('OpenRaster', () => {
  const found = read(file)
  const { puppet, assets, warnings } = found

  test('order from bottom to top, groups, names', () => {
    const names = (part: Part): unknown[] => part.children.map((id) => {
      const child = puppet.parts[id]!
      return child.children.length > 0 ? [child.name, ...names(child)] : child.name
    }) // prettier-ignore
    expect(names(puppet.parts[puppet.root]!)).toEqual(['Again', 'Body', ['Arm left', 'Sleeve', 'Shade', 'Hand']])
  })

  test('pictures are trimmed to what is opaque without moving', () => {
    expect(restBounds(puppet, named(puppet, 'Body').id)).toEqual({ minX: 7, minY: 11, maxX: 13, maxY: 21 })
    const picture = pictureOf(puppet, named(puppet, 'Body'))!
    const pixels = decode(assets.get(picture.asset)!)
    expect([pixels.width, pixels.height]).toEqual([6, 10])
    expect(new Set(pixels.data)).toEqual(new Set([10, 20, 30, 255]))
  })

  test('equal pixels are stored once', () => {
    expect(pictureOf(puppet, named(puppet, 'Body'))!.asset).toBe(pictureOf(puppet, named(puppet, 'Again'))!.asset)
    expect(assets.size).toBe(3)
  })

  test('opacity, blend modes, isolation, visibility, locks, clipping, offsets off the canvas', () => {
    expect(named(puppet, 'Arm left')).toMatchObject({ opacity: 0.5, blend: 'multiply', isolated: false })
    expect(named(puppet, 'Hand')).toMatchObject({ visible: false, locked: true })
    expect(restBounds(puppet, named(puppet, 'Hand').id)!.minY).toBe(-4)
    expect(named(puppet, 'Sleeve').blend).toBe('plus-lighter')
    expect(named(puppet, 'Shade').masks).toEqual([{ shape: named(puppet, 'Sleeve').id, keep: 'inside', by: 'paint' }])
  })

  test('what is not known is named', () => {
    expect(warnings.map((w) => `${w.place}: ${w.message}`)).toEqual([
      'layer "Again": its composite operator "krz:strange" is not known here; it is laid over plainly',
    ])
  })

  test('what was written is read back', () => {
    const pixels = { width: 64, height: 48, data: new Uint8Array(4 * 64 * 48) }
    const layer = {
      name: 'A & "B" <c>',
      visible: false,
      opacity: 0.25,
      blend: 'screen' as const,
      x: -3,
      y: 9,
      png: png(4, 4, [5, 6, 7, 255]),
    }
    const group = { name: 'G', visible: true, opacity: 1, blend: 'normal' as const, children: [layer, { ...layer, name: 'Top' }] }
    const written = writeOpenRaster({ width: 64, height: 48, layers: [group], merged: pixels, thumbnail: pixels })
    expect(new TextDecoder().decode(written.slice(30, 54))).toBe('mimetypeimage/openraster')
    const { layers } = readOpenRaster(openZip(written))
    expect(layers).toMatchObject([
      { name: 'G', children: [{ name: 'A & "B" <c>', visible: false, opacity: 0.25, blend: 'screen', x: -3, y: 9 }, { name: 'Top' }] },
    ])
  })
})

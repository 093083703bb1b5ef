/** Files that other programs wrote; test/foreign/README.md says how. */
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { decode } from 'fast-png'
import { describe, expect, test } from 'vitest'
import { sequentialIds } from '@marionette/core/kernel/ids'
import { pictureOf } from '@marionette/core/parts/pictures'
import type { Puppet } from '@marionette/core/puppet/schema'
import { partsBelow, restBounds } from '@marionette/core/parts/tree'
import { pictureDecoder } from '@marionette/render/decode'
import { loadCanvasKit } from '@marionette/render/node'
import { foldImport } from './svg/import'
import { readPuppetFile, type ReadPuppet } from './read'

const decoder = pictureDecoder(await loadCanvasKit())
function read(name: string): ReadPuppet {
  const bytes = readFileSync(fileURLToPath(new URL(`./test/foreign/${name}`, import.meta.url)))
  const found = readPuppetFile(bytes, name, { ids: sequentialIds('f'), decode: decoder })
  return found.nesting ? { ...found, puppet: foldImport(found.puppet, found.nesting) } : found
}

/** Names and bounds of the parts that show something, bottom to top. */
const shown = (puppet: Puppet, scale = 1): [string, ...number[]][] =>
  partsBelow(puppet, puppet.root).flatMap((p): [string, ...number[]][] => {
    const box = p.content.kind === 'group' || !p.visible ? null : restBounds(puppet, p.id)
    return box ? [[p.name, ...[box.minX, box.minY, box.maxX, box.maxY].map((v) => Math.round(v / scale))]] : []
  })

function pixels({ puppet, assets }: ReadPuppet, name: string): { data: ArrayLike<number>; width: number; height: number } {
  const part = Object.values(puppet.parts).find((p) => p.name === name && pictureOf(puppet, p))!
  return decode(assets.get(pictureOf(puppet, part)!.asset)!)
}

describe('an office drawing program', () => {
  test('its SVG: names, groups, order and places', () => {
    const { puppet } = read('office.svg')
    // Places in centimetres of 37.8 px.
    expect(shown(puppet, 96 / 2.54)).toEqual([
      ['Torso', 3, 3, 7, 7],
      ['Upper arm left', 7, 3, 8, 5],
      ['Forearm left', 7, 5, 8, 7],
    ])
    // The program writes no names of groups; ours says what is in it.
    const arm = Object.values(puppet.parts).find((p) => p.name === 'Upper arm left, Forearm left')!
    expect(arm.children.map((id) => puppet.parts[id]!.name)).toEqual(['Upper arm left', 'Forearm left'])
  })
})

describe('a diagram program', () => {
  test('its SVG: nodes and edges by their titles, in order', () => {
    const { puppet } = read('graph.svg')
    expect(shown(puppet).map(([name]) => name)).toEqual([
      'puppet shape',
      'head',
      'torso',
      'head->torso',
      'leg_l',
      'torso->leg_l',
      'leg_r',
      'torso->leg_r',
    ])
    const [, , minY, , maxY] = shown(puppet).find(([name]) => name === 'head')!
    expect(maxY! - minY!).toBeGreaterThan(30)
  })
})

describe('a picture converter', () => {
  test('its PSD: names, order, places off the canvas and pixels', () => {
    const found = read('layers.psd')
    expect(shown(found.puppet)).toEqual([
      ['Left arm', 10, 5, 50, 45],
      ['Hand_L', 60, 30, 90, 60],
      ['off canvas', 110, -20, 130, 30],
    ])
    expect([...Array.from(pixels(found, 'Left arm').data).slice(0, 4)]).toEqual([0xc2, 0x40, 0x2c, 255])
    expect([...Array.from(pixels(found, 'Hand_L').data).slice(0, 3)]).toEqual([30, 122, 107])
    expect(pixels(found, 'Hand_L').data[3]).toBeCloseTo(128, -1)
  })

  test('its 16-bit grey PSD becomes 8-bit colours', () => {
    const { data } = pixels(read('grey16.psd'), 'Grey layer')
    expect(data[0]).toBe(data[1])
    expect(data[0]).toBeLessThan(data[data.length - 4]!)
  })

  test('its CMYK PSD is refused with the reason', () => {
    expect(() => read('cmyk.psd')).toThrow('in CMYK colours, whose look on screen depends on a printer; save it as RGB.')
  })

  test.each(['rgb16.png', 'grey16.png'])('%s: 16 bits become 8, dark to bright', (name) => {
    const { data, width, height } = pixels(read(name), name.replace('.png', ''))
    expect([width, height]).toEqual([40, 30])
    expect([data[0], data[data.length - 4], data[3]]).toEqual([0, 255, 255])
    const middle = data[4 * 40 * 15]!
    expect(middle).toBeGreaterThan(115)
    expect(middle).toBeLessThan(145)
  })

  test.each(['disc.png', 'palette.png', 'disc.webp'])('%s: trimmed to what is opaque', (name) => {
    const found = read(name)
    expect(shown(found.puppet).map(([, ...box]) => box)).toEqual([[10, 5, 30, 25]])
    expect([...Array.from(pixels(found, name.replace(/\..*/, '')).data).slice(0, 4)]).toEqual([0xe0, 0xa5, 0x44, 255])
  })
})

import { decode } from 'fast-png'
import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { sequentialIds } from '@marionette/core/kernel/ids'
import type { Puppet } from '@marionette/core/puppet/schema'
import { bindBlended, bindWhole } from '@marionette/core/binds/commands'
import { addBone } from '@marionette/core/bones/commands'
import { run } from '@marionette/core/puppet/edit'
import { mergeGroup } from '@marionette/core/parts/artCommands'
import { duplicateParts, moveParts } from '@marionette/core/parts/arrange'
import { setMasks } from '@marionette/core/layering/commands'
import { showPart } from '@marionette/core/parts/commands'
import { setReference } from '@marionette/core/puppet/puppetCommands'
import { compile } from '@marionette/core/puppet/compile'
import { poseRig } from '@marionette/core/puppet/evaluate'
import { frameBounds, partsAt } from '@marionette/core/puppet/probe'
import { readPuppetFile, type ReadPuppet } from '@marionette/formats/read'
import { isOpenRaster, readOpenRaster } from '@marionette/formats/openraster/read'
import { starterSvg } from '@marionette/formats/starter'
import { ora, png } from '@marionette/formats/test/bytes'
import { openZip } from '@marionette/formats/zip'
import { mergeToPicture } from '@marionette/authoring/merge'
import { loadCanvasKit } from './node'
import { exportOpenRaster } from '@marionette/authoring/openraster'
import { livingObjects } from './owned'
import { renderPng } from './png'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const striped = png(20, 80, (_, y) => (y % 16 < 8 ? [200, 40, 30, 255] : [30, 40, 200, 255]))
const read = (): ReadPuppet =>
  readPuppetFile(
    ora(
      '<image w="120" h="120"><stack><stack name="Limb"><layer name="Dot" src="b.png" x="60" y="20" opacity="0.5"/><layer name="Arm" src="a.png" x="50" y="20"/></stack></stack></image>',
      {
        'a.png': striped,
        'b.png': png(10, 10, [255, 255, 255, 255]),
      },
    ),
    'limb.ora',
    { ids: sequentialIds('r') },
  )
const idOf = (puppet: Puppet, name: string): string => Object.values(puppet.parts).find((p) => p.name === name)!.id

const shot = (puppet: Puppet, assets: ReadPuppet['assets'], pose: Record<string, number> = {}) => {
  const image = decode(renderPng(CK, poseRig(compile(puppet), pose), { width: 120, background: null, assets: (hash) => assets.get(hash) }))
  return { image, at: (x: number, y: number): number[] => [...image.data.slice(4 * (y * 120 + x), 4 * (y * 120 + x) + 4)] }
}

describe('pictures', () => {
  test('are drawn pixel for pixel where nothing moves', () => {
    const { puppet, assets } = read()
    const { at } = shot(puppet, assets)
    expect(at(55, 24)).toEqual([200, 40, 30, 255])
    expect(at(55, 34)).toEqual([30, 40, 200, 255])
    expect(at(49, 50)).toEqual([0, 0, 0, 0])
    expect(at(65, 24)[0]).toBeGreaterThan(215)
  })

  test('turn with a bone as one piece, and without a dark fringe', () => {
    const { puppet, assets } = read()
    let p = run(puppet, addBone, { id: 'b', name: 'B', parent: null, start: { x: 60, y: 60 }, end: { x: 60, y: 90 } })
    p = run(p, bindWhole, { parts: [idOf(p, 'Limb')], bone: 'b' })
    const { at, image } = shot(p, assets, { 'bone/b/angle': 90 })
    expect(at(30, 60)[3]).toBe(255)
    expect(at(60, 25)[3]).toBe(0)
    const tilted = shot(p, assets, { 'bone/b/angle': 30 }).image
    for (let i = 0; i < tilted.data.length; i += 4) {
      const [r, , b, a] = [...tilted.data.slice(i, i + 4)] as [number, number, number, number]
      if (a > 20) expect(Math.max(r, b)).toBeGreaterThan(80)
    }
    expect(image.width).toBe(120)
  })

  test('bend on their mesh, follow their weights, and can be hit where they are', () => {
    const { puppet, assets } = read()
    let p = run(puppet, addBone, { id: 'up', name: 'Up', parent: null, start: { x: 60, y: 22 }, end: { x: 60, y: 60 } })
    p = run(p, addBone, { id: 'low', name: 'Low', parent: 'up', start: { x: 60, y: 60 }, end: { x: 60, y: 98 } })
    const limb = idOf(p, 'Limb')
    p = run(p, bindBlended, { part: limb, bones: ['up', 'low'], field: autoWeights(p, limb, ['up', 'low']) })
    const before = livingObjects()
    const pose = { 'bone/low/angle': 90 }
    const { at } = shot(p, assets, pose)
    // The lower half now points to the right.
    expect(at(90, 60)[3]).toBe(255)
    expect(at(60, 92)[3]).toBe(0)
    expect(at(55, 24)[3]).toBe(255)
    expect(livingObjects()).toBe(before)
    const frame = poseRig(compile(p), pose)
    expect(partsAt(frame, 92, 60)).toContain(idOf(p, 'Arm'))
    expect(partsAt(frame, 60, 95)).not.toContain(idOf(p, 'Arm'))
    expect(frameBounds(frame)!.maxX).toBeGreaterThan(92)
  })

  test('a group merged to one picture looks the same, at any resolution nearly so', () => {
    const { puppet, assets } = read()
    const limb = idOf(puppet, 'Limb')
    const plain = shot(puppet, assets).image.data
    for (const scale of [1, 2]) {
      const { picture, png: bytes } = mergeToPicture(CK, puppet, limb, scale, 'm', (hash) => assets.get(hash))
      const merged = run(puppet, mergeGroup, { part: limb, picture })
      const all = new Map([...assets, [picture.asset, bytes]])
      const { data } = shot(merged, all).image
      let off = 0
      for (let i = 0; i < data.length; i++) off = Math.max(off, Math.abs(data[i]! - plain[i]!))
      expect(off).toBeLessThanOrEqual(scale === 1 ? 2 : 40)
    }
  })

  test('a reference picture is never exported', () => {
    const { puppet, assets } = read()
    const reference = { asset: [...assets.keys()][0]!, width: 20, height: 80, x: 0, y: 0, scale: 1, opacity: 1, over: true, visible: true }
    expect(shot(run(puppet, setReference, { reference }), assets).at(5, 5)[3]).toBe(0)
  })

  test('the artwork leaves as OpenRaster and comes back the same', () => {
    const { puppet, assets } = read()
    const bytes = exportOpenRaster(CK, puppet, (hash) => assets.get(hash))
    expect(isOpenRaster(openZip(bytes))).toBe(true)
    const again = readPuppetFile(bytes, 'limb.ora', { ids: sequentialIds('x') })
    expect(readOpenRaster(openZip(bytes)).layers).toMatchObject([
      { name: 'Limb', children: [{ name: 'Arm' }, { name: 'Dot', opacity: 0.5 }] },
    ])
    expect([...shot(again.puppet, again.assets).image.data]).toEqual([...shot(puppet, assets).image.data])
  })

  test('what lies inside a masked group keeps its own opacity and stays hidden where it is', () => {
    const { puppet, assets } = read()
    const [limb, arm, dot] = ['Limb', 'Arm', 'Dot'].map((name) => idOf(puppet, name)) as [string, string, string]
    const shape = run(puppet, duplicateParts, { parts: [arm], prefix: 'm' })
    const mask = idOf(shape, 'Arm copy')
    const outside = run(shape, moveParts, { parts: [mask], parent: puppet.root, index: 0 })
    const masked = run(run(outside, setMasks, { part: limb, masks: [{ shape: mask, keep: 'inside', by: 'area' }] }), showPart, {
      parts: [mask],
      visible: false,
    })
    for (const changed of [masked, run(masked, showPart, { parts: [dot], visible: false })]) {
      const bytes = exportOpenRaster(CK, changed, (hash) => assets.get(hash))
      const again = readPuppetFile(bytes, 'limb.ora', { ids: sequentialIds('x') })
      expect(readOpenRaster(openZip(bytes)).layers).toMatchObject([{ name: 'Limb' }])
      expect([...shot(again.puppet, again.assets).image.data]).toEqual([...shot(changed, assets).image.data])
    }
  })

  test('a starter file has the same places under the expected names, in both formats', () => {
    const { puppet, assets } = read()
    const arm = idOf(puppet, 'Arm')
    const noted = { ...puppet, parts: { ...puppet.parts, [arm]: { ...puppet.parts[arm]!, role: 'upper-arm:left' } } }
    const raster = readPuppetFile(
      exportOpenRaster(CK, noted, (hash) => assets.get(hash), 'starter'),
      's.ora',
    ).puppet
    const vector = readPuppetFile(new TextEncoder().encode(starterSvg(noted)), 's.svg').puppet
    for (const starter of [raster, vector])
      expect(Object.values(starter.parts).map((p) => p.name)).toEqual(expect.arrayContaining(['Limb', 'Upper arm left', 'Dot']))
  })
})

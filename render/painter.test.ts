import { decode } from 'fast-png'
import { describe, expect, test } from 'vitest'
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { bindBlended } from '@marionette/core/binds/commands'
import { run } from '@marionette/core/puppet/edit'
import { renamePart, setHome, setPartOpacity } from '@marionette/core/parts/commands'
import type { Puppet } from '@marionette/core/puppet/schema'
import { compile } from '@marionette/core/puppet/compile'
import { evaluate, poseRig, makeFrame, writePose } from '@marionette/core/puppet/evaluate'
import { armPuppet } from '@marionette/core/test/puppets'
import { importSvg } from '@marionette/formats/svg/import'
import { loadCanvasKit } from './node'
import { livingObjects } from './owned'
import { Painter } from './painter'
import { renderPng } from './png'
import { RenderError } from './surface'

const CK = await loadCanvasKit()

function bentArm(): Puppet {
  const puppet = armPuppet()
  return run(puppet, bindBlended, { part: 'sleeve', bones: ['upper', 'lower'], field: autoWeights(puppet, 'sleeve', ['upper', 'lower']) })
}

function pixels(puppet: Puppet, pose?: Record<string, number>) {
  const image = decode(renderPng(CK, poseRig(compile(puppet), pose), { width: puppet.canvas.width, background: null }))
  return (x: number, y: number): number[] => [...image.data.slice((y * image.width + x) * 4, (y * image.width + x) * 4 + 4)]
}

const drawn = (inside: string): Puppet =>
  importSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100">${inside}</svg>`, 't').puppet

describe('painting', () => {
  test('draws what is there and leaves the rest transparent', () => {
    const at = pixels(armPuppet())
    expect(at(150, 100)).toEqual([0xaa, 0x55, 0x33, 255])
    expect(at(20, 20)).toEqual([0, 0, 0, 0])
  })

  test('a pose moves rigid and bent parts alike', () => {
    const at = pixels(bentArm(), { 'bone/lower/angle': 90 })
    expect(at(200, 30)[3]).toBe(255)
    expect(at(280, 100)[3]).toBe(0)
  })

  test('opacity of a group acts on the group as one picture', () => {
    const puppet = drawn(
      '<g id="two" opacity=".5"><rect width="60" height="60" fill="#ff0000"/><rect x="30" y="30" width="60" height="60" fill="#ff0000"/></g>',
    )
    const at = pixels(puppet)
    expect(at(45, 45)).toEqual(at(10, 10))
    expect(at(45, 45)[3]).toBeGreaterThan(125)
    expect(at(45, 45)[3]).toBeLessThan(130)
  })

  test('a shape with ink, line and opacity is faded as one', () => {
    const at = pixels(
      drawn('<g id="g"><rect x="20" y="20" width="60" height="60" fill="#00ff00" stroke="#00ff00" stroke-width="10" opacity=".5"/></g>'),
    )
    expect(at(22, 50)).toEqual(at(50, 50))
  })

  test('a slanted nib makes thick and thin', () => {
    const at = pixels(
      drawn('<g id="g" fill="none" stroke="#000"><rect x="20" y="2" width="60" height="6" stroke-width="1" transform="scale(1 10)"/></g>'),
    )
    expect(at(50, 23)[3]).toBe(255)
    expect(at(23, 50)[3]).toBe(0)
  })

  test('gradients and even-odd fills', () => {
    const at = pixels(
      drawn(`<linearGradient id="l"><stop offset="0" stop-color="#000"/><stop offset="1" stop-color="#fff"/></linearGradient>
        <g id="g"><path fill-rule="evenodd" d="M0 0h100v100h-100z M40 40h20v20h-20z" fill="url(#l)"/></g>`),
    )
    expect(at(50, 50)[3]).toBe(0)
    expect(at(90, 10)[0]! - at(10, 10)[0]!).toBeGreaterThan(180)
  })

  test('a picture that is too large is refused', () => {
    expect(() => renderPng(CK, poseRig(compile(armPuppet())), { width: 20_000, background: null })).toThrow(RenderError)
  })
})

describe('memory', () => {
  test('after a thousand edits and poses no Skia object is left behind', () => {
    const surface = CK.MakeSurface(64, 64)!
    const painter = new Painter(CK)
    const before = livingObjects()
    let puppet = run(bentArm(), setPartOpacity, { part: 'hand', opacity: 0.5 })
    let most = 0
    for (let i = 0; i < 1000; i++) {
      if (i % 3 === 0) puppet = run(puppet, setHome, { part: 'hand', home: { x: i % 7, y: 0, angle: i, scaleX: 1, scaleY: 1, skew: 0 } })
      if (i % 5 === 0) puppet = run(puppet, renamePart, { part: 'hand', name: `Hand ${i}` })
      const rig = compile(puppet)
      const frame = evaluate(rig, writePose(rig, { 'bone/lower/angle': i % 90 }, new Float64Array(rig.restPose.length)), makeFrame(rig))
      painter.paint(surface.getCanvas(), frame)
      most = Math.max(most, livingObjects() - before)
    }
    expect(most).toBeLessThan(12)
    painter.dispose()
    expect(livingObjects()).toBe(before)
    surface.delete()
  })
})

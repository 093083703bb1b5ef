import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { canonicalJson } from '@marionette/core/kernel/json'
import { assetsOf } from '@marionette/core/parts/tree'
import { inspectRig } from '@marionette/core/reports/report'
import { smallestAngles } from '@marionette/core/test/meshes'
import type { PictureId } from '@marionette/core/kernel/ids'
import type { Picture } from '@marionette/core/artwork/records'
import { BUILD, DEMOS } from '../demos'

const { puppet, assets } = DEMOS['quill']!()

describe('Quill', () => {
  test('is made of painted layers, fitted by the bird template, sound and without findings', () => {
    expect(Object.keys(puppet.pictures).length).toBeGreaterThanOrEqual(20)
    expect(Object.keys(puppet.bones).length).toBeGreaterThanOrEqual(17)
    expect(brokenInvariants(puppet)).toEqual([])
    expect(inspectRig(puppet)).toEqual([])
    expect(puppet.naming).toBe('near-far')
  })

  test('has all its pictures, and is the same each time', () => {
    expect([...assetsOf(puppet)].every((hash) => assets.has(hash))).toBe(true)
    expect(canonicalJson(BUILD.quill().puppet)).toBe(canonicalJson(puppet))
  })

  test('has two pixels to one of the canvas where Face looks, in the same places', () => {
    const named = (name: string): Picture => {
      const { art } = Object.values(puppet.parts).find((p) => p.name === name && Object.keys(p.art).length > 0)!
      return puppet.pictures[Object.values(art)[0]! as PictureId]!
    }
    for (const name of ['Head', 'Beak', 'Eye', 'Pupil', 'Brow']) {
      const picture = named(name)
      const xs = picture.mesh.vertices.filter((_, i) => i % 2 === 0)
      expect(picture.scale, name).toBe(0.5)
      // What is opaque still lies inside its mesh.
      expect(picture.x, name).toBeGreaterThan(Math.min(...xs) - 4)
      expect(picture.x + picture.width * picture.scale, name).toBeLessThan(Math.max(...xs) + 4)
    }
    expect(named('Body').scale).toBe(1)
  })

  test('bends its neck with several bones, everything else in whole pieces', () => {
    const blended = Object.values(puppet.parts).filter((p) => p.bind?.kind === 'blended')
    expect(blended.map((p) => p.name)).toEqual(['Neck'])
  })

  test('every mesh keeps its angles', () => {
    for (const { mesh } of Object.values(puppet.pictures)) expect(smallestAngles(mesh).free).toBeGreaterThan(20)
  })
})

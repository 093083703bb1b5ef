import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import { canonicalJson } from '@marionette/core/kernel/json'
import { assetsOf } from '@marionette/core/parts/tree'
import { inspectRig } from '@marionette/core/reports/report'
import { smallestAngles } from '@marionette/core/test/meshes'
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

  test('bends its neck with several bones, everything else in whole pieces', () => {
    const blended = Object.values(puppet.parts).filter((p) => p.bind?.kind === 'blended')
    expect(blended.map((p) => p.name)).toEqual(['Neck'])
  })

  test('every mesh keeps its angles', () => {
    for (const { mesh } of Object.values(puppet.pictures)) expect(smallestAngles(mesh).free).toBeGreaterThan(20)
  })
})

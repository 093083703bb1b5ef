import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import { rangeTest } from '@marionette/authoring/rangeTest'
import { loadCanvasKit } from '@marionette/render/node'
import { DEMOS } from './demos'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

describe('the range test', () => {
  test.each(Object.keys(DEMOS))(
    '%s passes it',
    (name) => {
      const { puppet, assets } = DEMOS[name]!()
      const report = rangeTest(CK, puppet, { poses: 20, assets: (hash) => assets.get(hash) })
      expect(report.runs.length).toBeGreaterThan(20)
      expect(report.runs.filter(({ grade }) => grade === 'broken').map(({ name: run, samples, worst }) => [run, samples[worst]])).toEqual(
        [],
      )
    },
    180_000,
  )
})

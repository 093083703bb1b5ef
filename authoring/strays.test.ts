import { beforeAll, describe, expect, test } from 'vitest'
import type { CanvasKit } from 'canvaskit-wasm'
import type { Drawing } from '@marionette/core/puppet/schema'
import { applyEdits, run } from '@marionette/core/puppet/edit'
import { addArtwork } from '@marionette/core/puppet/artworkCommands'
import { inspectRig } from '@marionette/core/reports/report'
import { newPuppet } from '@marionette/core/puppet/new'
import { box, drawingPart } from '@marionette/core/test/puppets'
import { withoutScraps } from '@marionette/formats/cutting/strays'
import { DEMOS } from '@marionette/demo/demos'
import { loadCanvasKit } from '@marionette/render/node'
import { findStrays } from './strays'

let CK: CanvasKit
beforeAll(async () => {
  CK = await loadCanvasKit()
})

const together = (id: string, ...drawings: Drawing[]): Drawing => ({
  id,
  shapes: drawings.flatMap((d, k) =>
    d.shapes.map((s) => ({ ...s, id: k, paths: s.paths.map((p) => ({ ...p, ids: p.ids.map((n) => 10 * k + n) })) })),
  ),
})

/** Two boots; the left one carries a slice of the right one, and a speck far away. */
function boots() {
  const left = together('left-art', box('a', 40, 100, 60, 50), box('b', 140, 100, 12, 50), box('c', 300, 20, 5, 5))
  const right = together('right-art', box('d', 140, 100, 60, 50))
  const puppet = newPuppet('p', 'Boots', { width: 400, height: 300 })
  const parts = [drawingPart('left', 'Boot left', left), drawingPart('right', 'Boot right', right)]
  return run(puppet, addArtwork, { parent: puppet.root, parts, drawings: [left, right] })
}

describe('stray pieces', () => {
  test('are those that repeat a neighbour and those far from the rest', () => {
    const found = findStrays(CK, boots())
    expect(found.map(({ name, across, of }) => ({ name, across, of }))).toEqual([
      { name: 'Boot left', across: 50, of: 'Boot right' },
      { name: 'Boot left', across: 5, of: null },
    ])
    const [finding] = inspectRig(boots(), new Map(), found).filter((f) => f.code === 'stray-piece')
    expect(finding!.message).toBe('carries 2 stray pieces of up to 50 px: Boot right shows the same')
  })

  test('are taken out, and nothing else is', () => {
    const puppet = boots()
    const { edits } = withoutScraps(puppet, findStrays(CK, puppet), () => undefined)
    const after = applyEdits(puppet, edits).puppet
    expect(after.drawings['left-art']!.shapes.flatMap((s) => s.paths.map((p) => p.anchors))).toEqual([
      [40, 100, 100, 100, 100, 150, 40, 150],
    ])
    expect(after.drawings['right-art']).toEqual(puppet.drawings['right-art'])
    expect(findStrays(CK, after)).toEqual([])
  })

  test.each(Object.keys(DEMOS))('%s has none', (name) => {
    const { puppet, assets } = DEMOS[name]!()
    expect(findStrays(CK, puppet, { assets: (hash) => assets.get(hash) }).map(({ name: n, across, of }) => ({ n, across, of }))).toEqual([])
  })
})

import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import type { Puppet } from '@marionette/core/puppet/schema'
import { wholeSheet } from '@marionette/core/cutting/sheets'
import { restBounds } from '@marionette/core/parts/tree'
import { inView } from '@marionette/core/views/views'
import { run } from '@marionette/core/puppet/edit'
import { splitSheet } from '@marionette/core/cutting/sheetCommands'
import { decodePng } from '../pixels'
import { readPuppetFile } from '../read'
import { png } from '../test/bytes'
import { cutSheet } from './sheet'

const cells = (views: readonly string[]) =>
  views.map((view, i) => ({ view, box: { x: 100 * i, y: 0, width: 100, height: 100 }, spot: { x: 100 * i + 50, y: 90 } }))

function split(puppet: Puppet, part: string, cut: ReturnType<typeof cutSheet>): Puppet {
  const views = [{ id: 'side', name: 'Side' }]
  return run(puppet, splitSheet, {
    part,
    sheet: cut.sheet,
    views,
    pieces: [...cut.pieces],
    spot: { x: 50, y: 90 },
    canvas: { width: 100, height: 100 },
  })
}

describe('a sheet', () => {
  test('of several layers is split as a whole, each layer by itself', () => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100" width="200" height="100">
      <g id="bodies"><rect x="30" y="30" width="40" height="60" fill="#a53"/><rect x="140" y="40" width="20" height="50" fill="#a53"/></g>
      <g id="hats"><rect x="40" y="10" width="20" height="20" fill="#357"/></g></svg>`
    const { puppet } = readPuppetFile(new TextEncoder().encode(svg), 'sheet.svg')
    const cut = cutSheet(puppet, puppet.root, cells(['front', 'side']), () => undefined, 'cell', false)
    expect(cut.pieces.map((p) => [puppet.parts[p.part]!.name, p.view])).toEqual([
      ['bodies', 'front'],
      ['bodies', 'side'],
      ['hats', 'front'],
    ])
    const front = split(puppet, puppet.root, cut)
    expect(brokenInvariants(front)).toEqual([])
    expect(restBounds(front, front.root)).toMatchObject({ minX: 30, maxX: 70, minY: 10 })
    expect(restBounds(inView(front, 'side'), front.root)).toMatchObject({ minX: 40, maxX: 60, minY: 40 })
    const whole = wholeSheet(front, front.root)
    expect(restBounds(whole, whole.root)).toMatchObject({ minX: 30, maxX: 160 })
  })

  test('on paper loses it, and an empty cell is refused', () => {
    const bytes = png(200, 100, (x, y) =>
      ((x > 30 && x < 70) || (x > 140 && x < 160) ? y > 20 && y < 90 : false) ? [160, 60, 40, 255] : [250, 248, 240, 255],
    )
    const { puppet, assets } = readPuppetFile(bytes, 'sheet.png')
    const part = Object.values(puppet.parts).find((p) => p.content.kind === 'picture')!.id
    const find = (hash: string): Uint8Array | undefined => assets.get(hash)
    const cut = cutSheet(puppet, part, cells(['front', 'side']), find, 'cell', true)
    const sizes = cut.pieces.map(({ art }) => ('picture' in art ? [art.picture.width, art.picture.height] : []))
    expect(sizes).toEqual([
      [39, 69],
      [19, 69],
    ])
    for (const [, piece] of cut.assets) {
      const { data } = decodePng(piece, 'piece')
      expect([data[0], data[1], data[2], data[3]]).toEqual([160, 60, 40, 255])
    }
    const withPaper = cutSheet(puppet, part, cells(['front', 'side']), find, 'cell', false)
    expect(withPaper.pieces.map(({ art }) => ('picture' in art ? art.picture.width : 0))).toEqual([100, 100])
    const nowhere = [{ view: 'front', box: { x: 300, y: 0, width: 50, height: 50 }, spot: { x: 0, y: 0 } }]
    expect(() => cutSheet(puppet, part, nowhere, find, 'cell', true)).toThrow('A cell is empty')
  })
})

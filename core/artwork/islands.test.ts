import { describe, expect, test } from 'vitest'
import { coverageOf } from '../maths/geometry/coverage'
import { polygonPath } from '../maths/geometry/path'
import { newRaster, padded, type Raster } from '../maths/geometry/raster'
import { areaOf, type Area } from '../maths/geometry/booleans'
import { foreignArea, foreignBits, smallIslands } from './islands'

/** A grid from rows of characters: # is drawn, + drawn and selected, . selected, a blank neither. */
function grid(...rows: string[]): { drawn: Uint8Array; selected: Uint8Array; width: number; height: number } {
  const all = rows.join('')
  return {
    drawn: Uint8Array.from(all, (c) => (c === '#' || c === '+' ? 1 : 0)),
    selected: Uint8Array.from(all, (c) => (c === '+' || c === '.' ? 1 : 0)),
    width: rows[0]!.length,
    height: rows.length,
  }
}
const shown = (cells: Uint8Array | null, width: number): string[] =>
  cells
    ? (Array.from(cells, (v) => (v ? 'x' : '.'))
        .join('')
        .match(new RegExp(`.{${width}}`, 'g')) ?? [])
    : []

describe('what a selection takes along of a neighbour', () => {
  test('is a small piece that goes on outside of it', () => {
    const { drawn, selected, width, height } = grid(
      ' ........  ', //
      ' .++++..+##',
      ' .++++..+##',
      ' .++++..+##',
      ' .++++...  ',
    )
    expect(shown(foreignBits(drawn, selected, width, height), width)).toEqual([
      '...........',
      '........x..',
      '........x..',
      '........x..',
      '...........',
    ])
  })

  test('a button that lies wholly inside is meant, and so is the larger piece, though it is cut', () => {
    const inside = grid('.........', '.++++++..', '.++++++.+', '.++++++..', '.........')
    expect(foreignBits(inside.drawn, inside.selected, inside.width, inside.height)).toBeNull()
    const cut = grid('  ######  ', ' .++++++. ', ' .++++++. ', ' ........ ')
    expect(foreignBits(cut.drawn, cut.selected, cut.width, cut.height)).toBeNull()
  })

  test('of two pieces alike both are meant', () => {
    const { drawn, selected, width, height } = grid('  ##    ## ', ' .++....++.', ' .++....++.')
    expect(foreignBits(drawn, selected, width, height)).toBeNull()
  })

  test('is found on opaque paper as well', () => {
    const boots = (left: number, right: number): Raster => {
      const out = newRaster(120, 60)
      out.data.fill(255)
      for (let y = 15; y < 45; y++)
        for (let x = 0; x < 120; x++)
          if ((x >= left && x < left + 40) || (x >= right && x < right + 40)) out.data.set([90, 54, 44], 4 * (y * 120 + x))
      return out
    }
    const lasso: Area = { paths: [polygonPath([2, 5, 68, 5, 68, 55, 2, 55])], rule: 'nonzero' }
    const found = foreignArea(boots(10, 60), lasso)!
    const covered = coverageOf(found, 120, 60)
    expect(covered[30 * 120 + 64]).toBe(1)
    expect(covered[30 * 120 + 40]).toBe(0)
    expect(areaOf(found)).toBeGreaterThan(8 * 30)
    expect(foreignArea(boots(10, 75), lasso)).toBeNull()
    // With nothing around the paper, as a picture is shown.
    const shifted = { paths: [polygonPath([4, 7, 70, 7, 70, 57, 4, 57])], rule: 'nonzero' as const }
    const bare = boots(10, 60)
    for (let i = 0; i < 120 * 60; i++) if (bare.data[4 * i] === 255) bare.data[4 * i + 3] = 0
    expect(foreignArea(bare, lasso)).not.toBeNull()
    expect(foreignArea(padded(boots(10, 60), 2, 2, 2, 2), shifted)).not.toBeNull()
  })
})

test('small islands are told with their distance from the rest; large ones are pieces in their own right', () => {
  const { drawn, width, height } = grid(
    '#####       ##', //
    '#####       ##',
    '#####         ',
    '     #        ',
  )
  const found = smallIslands(drawn, width, height)
  expect(found).toHaveLength(1)
  expect(found[0]).toMatchObject({ gap: Math.hypot(7, 2), island: { minX: 12, maxX: 13, minY: 0, maxY: 1 } })
  const twins = grid('####  ####', '####  ####')
  expect(smallIslands(twins.drawn, twins.width, twins.height)).toEqual([])
})

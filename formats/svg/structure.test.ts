import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import type { Part, Puppet, Shape } from '@marionette/core/puppet/schema'
import { drawingOf, partsBelow, restBounds } from '@marionette/core/parts/tree'
import { applyEdits, undoChange } from '@marionette/core/puppet/edit'
import { foldGroups } from '@marionette/core/parts/nesting'
import { pathBounds } from '@marionette/core/maths/geometry/bounds'
import { foldImport, importSvg } from './import'
import { edit } from '@marionette/core/kernel/command'

const source = (inside: string): string => `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">${inside}</svg>`

function read(inside: string, fold = true) {
  const { puppet, nesting, warnings } = importSvg(source(inside), 'test')
  const read = fold ? foldImport(puppet, nesting) : puppet
  expect(brokenInvariants(read)).toEqual([])
  return {
    puppet: read,
    warnings,
    nesting,
    names: partsBelow(read, read.root)
      .slice(1)
      .map((p) => p.name),
  }
}

const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!
const box = (puppet: Puppet, name: string) => restBounds(puppet, named(puppet, name).id)

describe('names', () => {
  test.each([
    ['a label of a layer', 'id="g12" ink:label="Left arm"', 'Left arm'],
    ['another way to write it', 'data-name="Scarf"', 'Scarf'],
    ['an id', 'id="hat"', 'hat'],
    ['escapes in an id', 'id="Left_x20_arm_x5F_1"', 'Left arm_1'],
    ['escapes of XML', 'id="a" aria-label="Tom &amp; &#x201C;Jo&#8221;"', 'Tom & “Jo”'],
    ['an id from a program', 'id="path4021-3-7"', 'box'],
  ])('%s', (_, attributes, name) => {
    expect(read(`<g xmlns:ink="urn:x"><g ${attributes}><rect width="9" height="9"/></g></g>`).names).toEqual([name])
  })

  test('groups without a name are called by what is in them', () => {
    const { names } = read(`<g><g id="eye"><circle r="3"/></g><g id="lid"><circle r="3"/></g><g id="brow"><circle r="2"/></g></g>
      <g><path d="M0 0L9 9L0 9z"/><path d="M0 0L5 5L0 5z"/><ellipse rx="3" ry="4"/></g>`)
    expect(names).toEqual(['eye, lid and more', 'eye', 'lid', 'brow', '2 paths and oval'])
  })
})

describe('nesting', () => {
  const nested =
    '<g><g transform="translate(50 10)"><g id="hand" transform="rotate(90)"><g><rect width="20" height="10"/></g></g></g></g><g/>'

  test('groups that group nothing are folded, and nothing moves', () => {
    const { puppet, names } = read(nested)
    expect(names).toEqual(['hand'])
    expect(named(puppet, 'hand').content.kind).toBe('drawing')
    expect(box(puppet, 'hand')).toEqual(box(read(nested, false).puppet, 'hand'))
  })

  test('folding is an edit that can be undone', () => {
    const { puppet, nesting } = read(nested, false)
    const { puppet: folded, change } = applyEdits(puppet, [edit(foldGroups, nesting)])
    expect(Object.keys(folded.parts).length).toBeLessThan(Object.keys(puppet.parts).length)
    expect(undoChange(folded, change)).toEqual(puppet)
  })

  test('groups that carry a name, an opacity, a mask or several parts stay', () => {
    const { names } = read(`<clipPath id="c"><circle r="5"/></clipPath><g id="arm"><g id="hand"><rect width="5" height="5"/></g></g>
      <g opacity=".5"><g id="faded"><rect width="5" height="5"/></g></g><g clip-path="url(#c)"><g id="cut"><rect width="9" height="9"/></g></g>`)
    expect(names).toEqual(['arm', 'hand', 'faded', 'faded', 'cut', 'cut', 'c'])
  })

  test('every part has its own space at its centre', () => {
    const { puppet } = read(
      '<g id="arm"><rect id="palm" x="40" y="20" width="20" height="10"/><rect id="thumb" x="60" y="20" width="10" height="30"/></g>',
    )
    for (const name of ['palm', 'thumb', 'arm']) expect(named(puppet, name).pivot).toEqual({ x: 0, y: 0 })
    expect(drawingOf(puppet, named(puppet, 'palm'))!.shapes[0]!.paths[0]!.anchors).toEqual([-10, -5, 10, -5, 10, 5, -10, 5])
    expect(box(puppet, 'palm')).toEqual({ minX: 40, minY: 20, maxX: 60, maxY: 30 })
  })
})

/** What the pattern on the shirt repeats. */
function patternShapes(puppet: Puppet): readonly Shape[] {
  const paint = drawingOf(puppet, named(puppet, 'shirt'))!.shapes[0]!.ink!.paint
  return paint.kind === 'pattern' ? puppet.drawings[paint.drawing]!.shapes : []
}

describe('masks, blends and effects', () => {
  test('a clip path is kept as a mask: a hidden part inside the masked one', () => {
    const { puppet } = read(
      '<clipPath id="lens"><circle cx="50" cy="50" r="20"/></clipPath><g id="eye" clip-path="url(#lens)"><rect id="iris" width="99" height="99"/></g>',
    )
    const eye = named(puppet, 'eye')
    expect(eye.masks).toEqual([{ shape: named(puppet, 'lens').id, keep: 'inside', by: 'area' }])
    expect(named(puppet, 'lens')).toMatchObject({ visible: false, parent: eye.id })
  })

  test('a shape that is masked becomes a group with the shape and the mask in it', () => {
    const { puppet } = read(
      '<mask id="m" mask-type="alpha"><circle r="20" fill="#fff"/></mask><rect id="cheek" width="30" height="30" mask="url(#m)"/>',
    )
    expect(named(puppet, 'cheek')).toMatchObject({ content: { kind: 'group' }, masks: [{ by: 'paint' }, { by: 'area' }] })
    expect(named(puppet, 'cheek shape').content.kind).toBe('drawing')
  })

  test('blend modes, isolation and effects belong to parts; a shape with one is a part', () => {
    const { puppet } =
      read(`<filter id="f"><feGaussianBlur in="SourceAlpha" stdDeviation="3 2" result="b"/><feOffset dx="4"/><feMerge><feMergeNode/><feMergeNode in="SourceGraphic"/></feMerge></filter>
      <g id="face" style="isolation:isolate"><rect width="9" height="9"/><rect id="blush" width="9" height="9" style="mix-blend-mode:multiply" filter="url(#f)"/></g>`)
    expect(named(puppet, 'face').isolated).toBe(true)
    expect(named(puppet, 'blush').blend).toBe('multiply')
    expect(named(puppet, 'blush').effect!.steps).toEqual([
      { step: 'blur', of: 'coverage', x: 3, y: 2, linear: true },
      { step: 'offset', of: 0, dx: 4, dy: 0 },
      { step: 'merge', of: [1, 'source'], linear: true },
    ])
  })

  test('a pattern is a drawing of its own, and an embedded picture is kept by the hash of its bytes', () => {
    const { puppet } = read(
      '<pattern id="p" width="8" height="8" patternUnits="userSpaceOnUse"><circle r="3"/></pattern><rect id="shirt" width="30" height="30" fill="url(#p)"/>',
    )
    const paint = drawingOf(puppet, named(puppet, 'shirt'))!.shapes[0]!.ink!.paint
    expect(paint).toMatchObject({ kind: 'pattern', tile: { width: 8, height: 8 } })
    expect(paint.kind === 'pattern' && puppet.drawings[paint.drawing]!.shapes).toHaveLength(1)
  })

  test('a pattern shows copies of symbols at the size they are used in, and one branch of a switch', () => {
    const { puppet } = read(
      `<symbol id="s" viewBox="0 0 10 10"><rect width="5" height="10"/></symbol>
      <pattern id="p" width="40" height="40" patternUnits="userSpaceOnUse"><use href="#s" x="3" width="20" height="20" opacity=".5"/>
      <switch><circle r="1" systemLanguage="xx"/><circle r="2" systemLanguage="en"/><circle r="3"/></switch></pattern>
      <rect id="shirt" width="80" height="80" fill="url(#p)"/>`,
    )
    expect(patternShapes(puppet).map((s) => [pathBounds(s.paths[0]!).maxX, s.alpha])).toEqual([
      [13, 0.5],
      [2, 1],
    ])
  })

  test('markers stay below the fill of a faded shape where the paint order asks for it', () => {
    const { puppet } = read(
      `<marker id="m" markerUnits="userSpaceOnUse"><circle r="1"/></marker>
      <pattern id="p" width="40" height="40" patternUnits="userSpaceOnUse">
      <path d="M0 0h30v30" opacity=".5" paint-order="markers" marker-start="url(#m)"/></pattern>
      <rect id="shirt" width="80" height="80" fill="url(#p)"/>`,
    )
    expect(patternShapes(puppet).map((s) => [pathBounds(s.paths[0]!).maxX, s.alpha])).toEqual([
      [1, 0.5],
      [30, 0.5],
    ])
  })
})

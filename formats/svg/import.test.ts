import { describe, expect, test } from 'vitest'
import { brokenInvariants } from '@marionette/core/puppet/invariants'
import type { Part, Puppet } from '@marionette/core/puppet/schema'
import { drawingOf, partsBelow, restBounds, restPivot } from '@marionette/core/parts/tree'
import { FormatError } from '../warnings'
import { importSvg } from './import'

const svg = (inside: string, attributes = 'width="200" height="100" viewBox="0 0 200 100"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inside}</svg>`

function read(inside: string, attributes?: string) {
  const { puppet, warnings } = importSvg(svg(inside, attributes), 'test')
  expect(brokenInvariants(puppet)).toEqual([])
  return { puppet, warnings, parts: partsBelow(puppet, puppet.root).slice(1) }
}

const named = (puppet: Puppet, name: string): Part => Object.values(puppet.parts).find((p) => p.name === name)!
const shapes = (puppet: Puppet, name: string) => drawingOf(puppet, named(puppet, name))!.shapes
const boundsOf = (puppet: Puppet, name: string): number[] => {
  const b = restBounds(puppet, named(puppet, name).id)!
  return [b.minX, b.minY, b.maxX, b.maxY].map((v) => Math.round(v * 1000) / 1000)
}

describe('parts', () => {
  test('nested groups become parts with name, order, visibility and opacity', () => {
    const { puppet, parts } = read(`
      <g id="body" opacity=".5"><g id="legs" display="none"><rect width="10" height="10"/></g><g id="coat"><path d="M0 0h20v20z"/></g></g>
      <g id="head"><circle cx="50" cy="50" r="10"/></g>`)
    expect(parts.map((p) => p.name)).toEqual(['body', 'legs', 'coat', 'head'])
    expect(named(puppet, 'body')).toMatchObject({ opacity: 0.5, content: { kind: 'group' } })
    expect(named(puppet, 'legs').visible).toBe(false)
    expect(named(puppet, 'head').content.kind).toBe('drawing')
    expect(puppet.parts[puppet.root]!.children.map((id) => puppet.parts[id]!.name)).toEqual(['body', 'head'])
  })

  test('unnamed shapes beside each other share a drawing; named ones are parts; automatic ids are no names', () => {
    const { puppet, parts } = read(
      `<g id="face"><rect id="rect123" width="9" height="9"/><path id="path4-5" d="M0 0L9 9"/><circle id="nose" r="4"/><rect width="5" height="5"/></g>`,
    )
    expect(parts.map((p) => p.name)).toEqual(['face', 'face shape', 'nose', 'face shape'])
    expect(parts[1] && drawingOf(puppet, parts[1])!.shapes).toHaveLength(2)
  })

  test('hidden groups and shapes stay, hidden', () => {
    const { puppet, parts, warnings } = read(
      `<g id="mask" visibility="hidden"><rect width="9" height="9"/></g><g id="eye"><circle r="4"/><circle r="3" display="none"/><circle r="2"/></g>`,
    )
    expect(warnings).toEqual([])
    expect(named(puppet, 'mask').visible).toBe(false)
    expect(shapes(puppet, 'mask')).toHaveLength(1)
    expect(parts.map((p) => `${p.name} ${p.visible}`)).toEqual([
      'mask false',
      'eye true',
      'eye shape true',
      'circle false',
      'eye shape true',
    ])
  })

  test('titles name a part before ids do, and the drawing itself', () => {
    const { puppet } = read(`<title>Quay</title><g id="x1"><title>Left hand</title><rect width="3" height="3"/></g>`)
    expect(puppet.name).toBe('Quay')
    expect(named(puppet, 'Left hand')).toBeDefined()
  })

  test('transforms of groups become homes and every part keeps its place', () => {
    const { puppet } = read(
      `<g id="arm" transform="translate(50 20) rotate(90) scale(2)"><g id="hand" transform="skewX(20)"><rect width="10" height="5"/></g></g>`,
    )
    expect(boundsOf(puppet, 'hand')).toEqual([40, 20, 50, 43.64])
  })

  test('pivots are in the middle of a part unless the file gives them in the space of the parent', () => {
    const { puppet } = read(
      `<g id="a" transform="translate(10 0)"><rect width="20" height="10"/></g><g id="b" data-pivot="7 8" transform="translate(10 0) scale(3)"><rect width="20" height="10"/></g>`,
    )
    expect(restPivot(puppet, named(puppet, 'a').id)).toEqual({ x: 20, y: 5 })
    expect(restPivot(puppet, named(puppet, 'b').id)).toEqual({ x: expect.closeTo(7), y: expect.closeTo(8) })
  })

  test('the view box is fitted into the canvas and centred', () => {
    const { puppet } = read('<rect id="r1x" width="10" height="10"/>', 'width="200" height="100" viewBox="0 0 10 10"')
    expect(boundsOf(puppet, 'r1x')).toEqual([50, 0, 150, 100])
    expect(puppet.canvas).toMatchObject({ width: 200, height: 100 })
    expect(importSvg(svg('', 'viewBox="0 0 64 32"'), 't').puppet.canvas).toMatchObject({ width: 64, height: 32 })
    expect(importSvg(svg('', 'width="2in" viewBox="0 0 10 5"'), 't').puppet.canvas).toMatchObject({ width: 192, height: 96 })
  })
})

describe('outlines', () => {
  test('all path commands, absolute and relative', () => {
    const { puppet } = read(
      `<path id="all" d="M10 10 h20 v10 H15 V40 L5 40 l5 5 C20 50 30 50 30 60 c5 5 10 5 10 0 S50 50 55 60 s5 5 5 0 Q70 70 80 60 q5 -5 10 0 T100 60 t10 0 A10 20 30 0 1 120 70 a5 5 0 1 0 10 0 Z m5 5 l1 1"/>`,
    )
    const paths = shapes(puppet, 'all')[0]!.paths
    expect(paths.map((p) => p.closed)).toEqual([true, false])
    const { home } = named(puppet, 'all')
    const onCanvas = (anchors: number[]) => anchors.map((v, i) => v + (i % 2 === 0 ? home.x : home.y))
    expect(onCanvas(paths[1]!.anchors)).toEqual([15, 15, 16, 16])
    expect(onCanvas(paths[0]!.anchors.slice(-2))).toEqual([130, 70])
  })

  test('basic shapes have the bounds that they say', () => {
    const { puppet } = read(`
      <rect id="box" x="10" y="20" width="30" height="10" rx="4"/><circle id="ball" cx="50" cy="50" r="10"/><ellipse id="egg" cx="80" cy="50" rx="10" ry="20"/>
      <polygon id="kite" points="0,0 10,5 0,10"/><polyline id="wire" points="0 0 5 5 9 1" fill="none" stroke="red" stroke-width="2"/><line id="rod" x1="5" y1="5" x2="25" y2="5" stroke="blue" stroke-width="4"/>`)
    expect(boundsOf(puppet, 'box')).toEqual([10, 20, 40, 30])
    expect(boundsOf(puppet, 'ball')).toEqual([40, 40, 60, 60])
    expect(boundsOf(puppet, 'egg')).toEqual([70, 30, 90, 70])
    expect(boundsOf(puppet, 'kite')).toEqual([0, 0, 10, 10])
    expect(boundsOf(puppet, 'wire')).toEqual([-1, -1, 10, 6])
    expect(boundsOf(puppet, 'rod')).toEqual([3, 3, 27, 7])
  })

  test('a closed path whose end lies on its start has no point twice', () => {
    const path = shapes(read('<path id="tri" d="M0 0 C5 5 5 5 10 0 L5 9 C4 8 1 1 0 0Z"/>').puppet, 'tri')[0]!.paths[0]!
    expect(path.ids).toHaveLength(3)
    expect(path.handles.slice(0, 4)).toEqual([1, 1, 5, 5])
  })

  test('broken path data keeps what came before and says so', () => {
    const { puppet, warnings } = read('<path id="half" d="M0 0 L10 10 L oops"/>')
    expect(warnings).toMatchObject([{ code: 'svg.outline', place: 'line 1, <path id="half">' }])
    expect(puppet.name).toBe('test')
  })

  test('coordinates beyond all bounds are left out with a warning', () => {
    expect(read('<path id="far" d="M0 0 L5 5 L1e99 4"/>').warnings[0]!.code).toBe('svg.outline')
  })
})

describe('paint', () => {
  test('presentation attributes inherit, the style attribute goes first', () => {
    const { puppet } = read(
      `<g id="out" fill="#ff0000" stroke="blue" stroke-width="3"><g id="in"><rect width="9" height="9" style="fill: rgb(0, 128, 0); stroke-opacity: 50%"/></g></g>`,
    )
    const [shape] = shapes(puppet, 'in')
    expect(shape!.ink).toMatchObject({ paint: { kind: 'flat', colour: '#008000' } })
    expect(shape!.line).toMatchObject({ width: 3, alpha: 0.5, paint: { colour: '#0000ff' } })
  })

  test('fill is black unless said otherwise, and none means none', () => {
    const { puppet } = read(
      '<g id="a"><rect width="5" height="5"/><rect width="5" height="5" fill="none" stroke="currentColor" color="#123456"/></g>',
    )
    const [first, second] = shapes(puppet, 'a')
    expect(first!.ink).toMatchObject({ alpha: 1, paint: { colour: '#000000' } })
    expect(second!.ink).toBeNull()
    expect(second!.line).toMatchObject({ paint: { colour: '#123456' } })
  })

  test('a nib under an uneven transform keeps its space, under an even one it is scaled', () => {
    const { puppet } = read(
      '<g id="a" stroke="red" stroke-width="2"><path d="M0 0h5" transform="scale(3)"/><path d="M0 0h5" transform="scale(3 1)"/></g>',
    )
    const [even, uneven] = shapes(puppet, 'a')
    expect(even!.line).toMatchObject({ width: 6, pen: null })
    expect(uneven!.line).toMatchObject({ width: 2, pen: [3, 0, 0, 1] })
  })

  test('gradients take over stops and attributes from each other', () => {
    const { puppet, warnings } =
      read(`<defs><linearGradient id="base"><stop offset="0" stop-color="red"/><stop offset="150%" stop-color="blue" stop-opacity=".5"/></linearGradient>
      <linearGradient id="turned" href="#base" gradientTransform="rotate(90)" spreadMethod="reflect"/><radialGradient id="ball" xlink:href="#base" gradientUnits="userSpaceOnUse" cx="5" cy="6" r="7" fx="4"/></defs>
      <g id="a"><rect width="10" height="20" fill="url(#turned)"/><rect width="10" height="20" fill="url('#ball')"/></g>`)
    const [linear, radial] = shapes(puppet, 'a')
    expect(warnings).toEqual([])
    expect(linear!.ink!.paint).toMatchObject({
      kind: 'linear',
      spread: 'reflect',
      stops: [
        { at: 0, colour: '#ff0000' },
        { at: 1, alpha: 0.5 },
      ],
    })
    expect(radial!.ink!.paint).toMatchObject({ kind: 'radial', centre: { x: 5, y: 6 }, focus: { x: 4, y: 6 }, radius: 7 })
  })

  test('percentages of a gradient in user space are of the view', () => {
    const { puppet } = read(
      '<linearGradient id="l" gradientUnits="userSpaceOnUse" x1="25%" x2="100%" y2="50%"><stop stop-color="red"/><stop offset="1"/></linearGradient><rect id="r1x" width="5" height="5" fill="url(#l)"/>',
    )
    expect(shapes(puppet, 'r1x')[0]!.ink!.paint).toMatchObject({ from: { x: 50, y: 0 }, to: { x: 200, y: 50 } })
  })

  test('gradients that refer to each other in a circle end', () => {
    const { warnings } = read(
      '<linearGradient id="a" href="#b"/><linearGradient id="b" href="#a"/><rect id="r" width="5" height="5" fill="url(#a)"/>',
    )
    expect(warnings).toEqual([])
  })

  test('dashes are doubled when odd and scaled with the shape', () => {
    const { puppet } = read(
      '<g id="a"><path d="M0 0h50" stroke="red" stroke-dasharray="3 2 1" stroke-dashoffset="2" transform="scale(2)"/></g>',
    )
    expect(shapes(puppet, 'a')[0]!.line!.dash).toEqual({ lengths: [6, 4, 2, 6, 4, 2], offset: 4 })
  })
})

describe('what is not drawn is named with its place', () => {
  test.each([
    ['<text id="sign">Post</text>', 'svg.text', 'line 1, <text id="sign">'],
    ['<g>\n<image href="http://example.com/a.png"/></g>', 'svg.external', 'line 2, <image>'],
    ['<image href="data:image/png;base64,AAAA"/>', 'svg.image', 'line 1, <image>'],
    ['<use href="#a"/>', 'svg.reference', 'line 1, <use>'],
    ['<use href="other.svg#a"/>', 'svg.external', 'line 1, <use>'],
    ['<g id="me"><use href="#me"/></g>', 'svg.reference', 'line 1, <use>'],
    ['<script>alert(1)</script>', 'svg.script', 'line 1, <script>'],
    ['<rect width="5" height="5" onclick="alert(1)"/>', 'svg.script', 'line 1, <rect>'],
    ['<style>@import url(x.css);</style>', 'svg.style', 'line 1, <style>'],
    ['<style>rect! { fill: red }</style>', 'svg.style', 'line 1, <style>'],
    ['<foreignObject/>', 'svg.element', 'line 1, <foreignObject>'],
    ['<rect width="5" height="5"><animate attributeName="x"/></rect>', 'svg.animation', 'line 1, <animate>'],
    ['<g clip-path="url(#c)"/>', 'svg.reference', 'line 1, <g>'],
    ['<g clip-path="circle(5px)"/>', 'svg.reference', 'line 1, <g>'],
    ['<rect id="r" width="5" height="5" style="mix-blend-mode: stir"/>', 'svg.property', 'line 1, <rect id="r">'],
    ['<rect id="r" width="5" height="5" style="vector-effect: non-scaling-stroke"/>', 'svg.property', 'line 1, <rect id="r">'],
    ['<filter id="f"><feTurbulence/></filter><rect id="r" width="5" height="5" filter="url(#f)"/>', 'svg.filter', 'line 1, <feTurbulence>'],
    ['<rect id="r" width="5" height="5" fill="url(#gone)"/>', 'svg.paint', 'line 1, <rect id="r">'],
    ['<rect id="r" width="5" height="5" fill="no-such-colour"/>', 'svg.paint', 'line 1, <rect id="r">'],
    ['<g transform="spin(30)"/>', 'svg.transform', 'line 1, <g>'],
    ['', 'svg.empty', 'the whole file'],
  ])('%s', (inside, code, place) => {
    expect(read(inside).warnings).toContainEqual(expect.objectContaining({ code, place }))
  })

  test('a text is named with its words and where it would have stood', () => {
    const { warnings } = read(
      '<g transform="translate(20 10)"><text x="10" y="30" font-size="20" text-anchor="middle">Post <tspan>office</tspan></text></g>',
    )
    const { message, bounds } = warnings.find((w) => w.code === 'svg.text')!
    expect(message).toContain('"Post office" at 8, 24')
    expect(bounds!.maxY - bounds!.minY).toBeCloseTo(20.4)
  })

  test.each([
    'width="20" height="10" viewBox="0 0 5 5" preserveAspectRatio="sideways"',
    'width="0" height="10"',
    'viewBox="0 0 0 0"',
    'width="NaN"',
  ])('a drawing with %s', (attributes) =>
    expect(read('<rect width="9" height="9"/>', attributes).warnings).toMatchObject([{ code: 'svg.viewport' }]),
  )

  test('properties at their neutral value are no finding', () => {
    expect(
      read('<g style="mix-blend-mode:normal;font-family:serif;-webkit-x:1" filter="none"><rect width="1" height="1"/></g>').warnings,
    ).toEqual([])
  })
})

describe('files that are no drawings', () => {
  test.each([
    ['', 'empty'],
    ['<html/>', 'not an SVG drawing'],
    ['<svg', 'not well-formed'],
    ['<svg><g></svg>', 'not well-formed'],
    ['<svg>&bomb;</svg>', 'not well-formed'],
    [`<svg>${'<g>'.repeat(1200)}${'</g>'.repeat(1200)}</svg>`, 'deeper than 1000'],
  ])('%#', (source, words) => {
    expect(() => importSvg(source, 't')).toThrow(FormatError)
    expect(() => importSvg(source, 't')).toThrow(words)
  })

  test('the same source gives the same puppet', () => {
    const source = svg('<g id="a"><rect width="5" height="5"/></g>')
    expect(importSvg(source, 't')).toEqual(importSvg(source, 't'))
  })
})

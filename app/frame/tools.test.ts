import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import { autoWeights } from '@marionette/core/binds/autoWeights'
import { canonicalJson } from '@marionette/core/kernel/json'
import type { Puppet, Vec } from '@marionette/core/puppet/schema'
import { bindBlended, bindWhole } from '@marionette/core/binds/commands'
import { run } from '@marionette/core/puppet/edit'
import { taperSelected } from '../features/touch/pointActions'
import { openDocument, openPuppet, undo, useDocument } from '../editor/document'
import { selectBones, selectNothing, selectParts, useSession, type BenchId } from '../editor/session'
import { forgetWithDrawing, selectPoints, useTouch } from '../features/touch/settings'
import { quietEditor } from '../test/quietEditor'
import { StageModelSource } from '../editor/stageModel'
import { bindTool } from '../features/binds/bindTool'
import { moveBonesTool } from '../features/bones/bonesTool'
import { drawBonesTool } from '../features/bones/drawBonesTool'
import { figureTool, penTool } from '../features/touch/drawingTools'
import { limitsTool } from '../features/bones/limitsTool'
import { pointsTool } from '../features/touch/pointsTool'
import { nextPartUnder } from '../stage/pick'
import { pivotTool } from '../features/parts/pivotTool'
import { homeTool, movePartTool } from '../features/parts/placeTool'
import { poseTool } from '../features/posing/poseTool'
import { selectTool } from '../features/parts/selectTool'
import type { Tool, ToolEvent, ToolHost } from '../stage/tool'
import { armPuppet } from '@marionette/core/test/puppets'

const { editor } = quietEditor()
forgetWithDrawing(editor)

const model = new StageModelSource(editor)
const host: ToolHost = {
  editor,
  camera: { zoom: 1, x: 0, y: 0 },
  get model() {
    return model.get(openPuppet(editor), useSession.of(editor).getState().bench === 'bones')
  },
  px: (screen) => screen,
  redraw: () => undefined,
  repaint: () => undefined,
}

const spot = (x: number, y: number): Vec => ({ x, y })
const send = (tool: Tool, type: ToolEvent['type'], at: Vec, more: Partial<ToolEvent> = {}): void =>
  tool.pointer({ type, at, dragging: false, shift: false, alt: false, pressure: null, ...more }, host)

function click(tool: Tool, at: Vec, more: Partial<ToolEvent> = {}): void {
  send(tool, 'down', at, more)
  send(tool, 'up', at, more)
}

/** Presses, moves in steps and releases; `end` may be a cancel instead. */
function drag(tool: Tool, from: Vec, to: Vec, end: 'up' | 'cancel' = 'up'): void {
  send(tool, 'down', from)
  for (let k = 1; k <= 4; k++)
    send(tool, 'move', spot(from.x + ((to.x - from.x) * k) / 4, from.y + ((to.y - from.y) * k) / 4), { dragging: true })
  send(tool, end, to, { dragging: true })
}

const labels = (): string[] =>
  useDocument
    .of(editor)
    .getState()
    .history!.changes.map((c) => c.label)
const selection = (): readonly string[] => useSession.of(editor).getState().selection.ids

function rigged(): Puppet {
  const puppet = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'palm' })
  return run(puppet, bindBlended, { part: 'sleeve', bones: ['upper', 'lower'], field: autoWeights(puppet, 'sleeve', ['upper', 'lower']) })
}
const RIGGED = rigged()

const open = (bench: BenchId, puppet = RIGGED): void => {
  openDocument(editor, { puppet: puppet, revision: 1 })
  useSession.of(editor).setState({ bench })
  selectNothing(editor)
}

describe('select', () => {
  beforeEach(() => open('parts'))

  test('takes the part under the pointer, adds with Shift, and nothing on empty stage', () => {
    click(selectTool, spot(320, 100))
    expect(selection()).toEqual(['hand'])
    click(selectTool, spot(150, 100), { shift: true })
    expect(selection()).toEqual(['hand', 'sleeve'])
    click(selectTool, spot(10, 10))
    expect(selection()).toEqual([])
  })

  test('a repeated click goes down the stack and round again', () => {
    const stack = ['top', 'middle', 'bottom']
    expect(nextPartUnder(stack, undefined)).toBe('top')
    expect(nextPartUnder(stack, 'top')).toBe('middle')
    expect(nextPartUnder(stack, 'bottom')).toBe('top')
    expect(nextPartUnder(stack, 'elsewhere')).toBe('top')
    expect(nextPartUnder([], 'top')).toBeUndefined()
  })
})

describe('pose', () => {
  beforeEach(() => open('parts'))

  test('a dragged rod turns its bone in one step of history', () => {
    drag(poseTool, spot(150, 100), spot(110, 50))
    expect(openPuppet(editor).pose['bone/upper/angle']).toBeGreaterThan(60)
    expect(labels()).toEqual(['Turn Upper'])
    undo(editor)
    expect(openPuppet(editor).pose).toEqual({})
  })

  test('bones that do not show are not pressed: who grabs the hand moves the limb', () => {
    const keys = (): string[] => Object.keys(openPuppet(editor).pose).sort()
    useSession.of(editor).setState({ showBones: false })
    drag(poseTool, spot(280, 85), spot(230, 180))
    expect(keys()).toEqual(['bone/lower/angle', 'bone/upper/angle'])
    undo(editor)
    useSession.of(editor).setState({ showBones: true })
    // On the rod of the forearm it turns alone; where its hand is drawn the rod is passed over.
    drag(poseTool, spot(240, 100), spot(230, 180))
    expect(keys()).toEqual(['bone/lower/angle'])
    undo(editor)
    drag(poseTool, spot(297, 100), spot(230, 180))
    expect(keys()).toEqual(['bone/lower/angle', 'bone/upper/angle'])
  })

  test('says before the press what it will do', () => {
    const said = (): string => (poseTool.hintNow!(editor) ?? poseTool.hint).map(([, rest]) => rest).join(' ')
    useSession.of(editor).setState({ showBones: false })
    send(poseTool, 'hover', spot(280, 85))
    expect(said()).toContain('to reach with Lower')
    expect(useSession.of(editor).getState().hover.ids).toEqual(['lower'])
    send(poseTool, 'hover', spot(10, 10))
    expect(said()).not.toContain('to reach')
  })

  test('the bead at the end of the limb reaches with both bones', () => {
    drag(poseTool, spot(340, 100), spot(230, 180))
    expect(Object.keys(openPuppet(editor).pose).sort()).toEqual(['bone/lower/angle', 'bone/upper/angle'])
    expect(labels()).toEqual(['Reach with Lower'])
  })

  test('the drawing itself can be grabbed, bent parts by the bone that weighs most there', () => {
    drag(poseTool, spot(280, 85), spot(230, 20))
    expect(Object.keys(openPuppet(editor).pose).sort()).toEqual(['bone/lower/angle', 'bone/upper/angle'])
    expect(selection()).toEqual(['lower'])
  })

  test('rest is never touched', () => {
    drag(poseTool, spot(150, 100), spot(110, 50))
    expect(canonicalJson(openPuppet(editor).bones)).toBe(canonicalJson(RIGGED.bones))
    expect(canonicalJson(openPuppet(editor).parts)).toBe(canonicalJson(RIGGED.parts))
  })

  test('a cancelled drag leaves everything as it was, also in the middle', () => {
    drag(poseTool, spot(150, 100), spot(110, 50), 'cancel')
    expect(openPuppet(editor)).toEqual(RIGGED)
    send(poseTool, 'down', spot(150, 100))
    send(poseTool, 'move', spot(110, 50), { dragging: true })
    poseTool.cancel(editor)
    expect(openPuppet(editor)).toEqual(RIGGED)
    expect(labels()).toEqual([])
  })

  test('a press without a drag selects and changes nothing', () => {
    click(poseTool, spot(150, 100))
    expect(selection()).toEqual(['upper'])
    expect(labels()).toEqual([])
  })
})

describe('bones at rest', () => {
  beforeEach(() => open('bones'))

  test('bead, ring and rod move what they should', () => {
    drag(moveBonesTool, spot(340, 100), spot(350, 120))
    expect(openPuppet(editor).bones['palm']!.end).toEqual({ x: 350, y: 120 })
    drag(moveBonesTool, spot(150, 100), spot(150, 130))
    expect(openPuppet(editor).bones['upper']).toMatchObject({ start: { x: 100, y: 130 }, end: { x: 200, y: 130 } })
    expect(openPuppet(editor).bones['palm']!.end).toEqual({ x: 350, y: 150 })
    expect(labels()).toEqual(['Move Palm', 'Move Upper'])
  })

  test('bones are drawn from a bead, from the selection, or as a new root', () => {
    drag(drawBonesTool, spot(343, 104), spot(380, 80))
    const [first] = selection()
    expect(openPuppet(editor).bones[first!]).toMatchObject({
      parent: 'palm',
      start: { x: 340, y: 100 },
      end: { x: 380, y: 80 },
      name: 'Bone 4',
    })
    selectBones(editor, 'upper')
    drag(drawBonesTool, spot(40, 250), spot(90, 250))
    expect(openPuppet(editor).bones[selection()[0]!]!.parent).toBe('upper')
    click(drawBonesTool, spot(10, 290))
    expect(selection()).toEqual([])
    drag(drawBonesTool, spot(20, 20), spot(60, 20))
    expect(openPuppet(editor).bones[selection()[0]!]!.parent).toBeNull()
    expect(labels()).toEqual(['Draw bone', 'Draw bone', 'Draw bone'])
  })

  test('limits are dragged by their ticks, to one side only, and taken away past the half turn', () => {
    selectBones(editor, 'upper')
    // The open tick above stands at 170 degrees from a bone that points right.
    const tick = (degrees: number): Vec =>
      spot(100 + 62 * Math.cos((degrees * Math.PI) / 180), 100 - 62 * Math.sin((degrees * Math.PI) / 180))
    drag(limitsTool, tick(170), tick(80))
    expect(openPuppet(editor).bones['upper']!.limits).toEqual({ min: null, max: 80 })
    drag(limitsTool, tick(80), tick(178))
    expect(openPuppet(editor).bones['upper']!.limits).toEqual({ min: null, max: null })
  })

  test('binding ties the clicked part to the selected bone, and unties it again', () => {
    click(bindTool, spot(320, 92))
    expect(labels()).toEqual([])
    click(bindTool, spot(250, 100))
    expect(selection()).toEqual(['lower'])
    click(bindTool, spot(320, 88))
    expect(openPuppet(editor).parts['hand']!.bind).toEqual({ kind: 'whole', bone: 'lower' })
    click(bindTool, spot(320, 88))
    expect(openPuppet(editor).parts['hand']!.bind).toBeNull()
    expect(labels()).toEqual(['Bind Hand to Lower', 'Untie Hand'])
  })

  test('the pivot moves and the part stays', () => {
    selectParts(editor, 'hand')
    drag(pivotTool, spot(0, 0), spot(300, 100))
    expect(openPuppet(editor).parts['hand']!.pivot).toEqual({ x: 300, y: 100 })
    expect(openPuppet(editor).parts['hand']!.home).toMatchObject({ x: 0, y: 0, angle: 0 })
  })
})

describe('moving parts', () => {
  test('home changes the rest, move changes the pose', () => {
    open('bones', armPuppet())
    drag(homeTool, spot(320, 92), spot(330, 112))
    expect(openPuppet(editor).parts['hand']!.home).toMatchObject({ x: 10, y: 20 })
    expect(openPuppet(editor).pose).toEqual({})
    open('parts', armPuppet())
    drag(movePartTool, spot(320, 92), spot(330, 112))
    expect(openPuppet(editor).parts['hand']!.home).toMatchObject({ x: 0, y: 0 })
    expect(openPuppet(editor).pose).toEqual({ 'part/hand/x': 10, 'part/hand/y': 20 })
  })

  test('a part that its bone has turned still follows the pointer', () => {
    open('parts', { ...RIGGED, pose: { 'bone/upper/angle': 90 } })
    // The hand now points up, at (100, -140) of the canvas.
    drag(movePartTool, spot(108, -120), spot(118, -130))
    expect(openPuppet(editor).pose['part/hand/x']).toBeCloseTo(10)
    expect(openPuppet(editor).pose['part/hand/y']).toBeCloseTo(10)
  })

  test('the round handle turns a part about its pivot', () => {
    open('parts', { ...armPuppet(), parts: { ...armPuppet().parts, hand: { ...armPuppet().parts['hand']!, pivot: { x: 300, y: 100 } } } })
    selectParts(editor, 'hand')
    drag(movePartTool, spot(300, 44), spot(244, 100))
    expect(openPuppet(editor).pose['part/hand/angle']).toBeCloseTo(90)
  })
})

describe('snapping', () => {
  beforeEach(() => useTouch.of(editor).setState({ snaps: true }))
  afterEach(() => useTouch.of(editor).setState({ snaps: false }))

  test('points, pivots and guides catch what is moved near them', () => {
    open('shape', { ...armPuppet(), guides: [{ axis: 'x', at: 352 }] })
    selectParts(editor, 'hand')
    // The corner at 340, 115 lies on the guide at 352 when it is brought within a few px.
    drag(pointsTool, spot(340, 115), spot(349, 130))
    expect(openPuppet(editor).drawings['d-hand']!.shapes[0]!.paths[0]!.anchors.slice(4, 6)).toEqual([352, 130])
    open('parts', { ...armPuppet(), guides: [{ axis: 'y', at: 40 }] })
    drag(movePartTool, spot(320, 92), spot(330, 130))
    // The pivot of the hand, at the corner of the canvas, is caught by the guide.
    expect(openPuppet(editor).pose['part/hand/y']).toBe(40)
    open('bones', { ...armPuppet(), guides: [{ axis: 'x', at: 355 }] })
    drag(moveBonesTool, spot(340, 100), spot(352, 120))
    expect(openPuppet(editor).bones['palm']!.end).toEqual({ x: 355, y: 120 })
  })

  test('nothing is caught unless that is asked for', () => {
    useTouch.of(editor).setState({ snaps: false })
    open('shape', { ...armPuppet(), guides: [{ axis: 'x', at: 352 }] })
    selectParts(editor, 'hand')
    drag(pointsTool, spot(340, 115), spot(349, 130))
    expect(openPuppet(editor).drawings['d-hand']!.shapes[0]!.paths[0]!.anchors.slice(4, 6)).toEqual([349, 130])
  })
})

describe('touch-up', () => {
  const hand = (): readonly number[] => openPuppet(editor).drawings['d-hand']!.shapes[0]!.paths[0]!.anchors
  beforeEach(() => {
    open('shape', { ...RIGGED, pose: { 'bone/palm/angle': 90 } })
    selectParts(editor, 'hand')
    selectPoints(editor, [])
  })

  test('a point of a turned part goes where it is seen, Alt bends it and makes it a corner again', () => {
    // The palm points up: the corner at 340, 115 is seen at 315, 60.
    drag(pointsTool, spot(315, 60), spot(325, 50))
    expect(
      hand()
        .slice(4, 6)
        .map((v) => Math.round(v * 1e6) / 1e6),
    ).toEqual([350, 125])
    send(pointsTool, 'down', spot(325, 50), { alt: true })
    send(pointsTool, 'move', spot(325, 30), { dragging: true, alt: true })
    send(pointsTool, 'up', spot(325, 30), { dragging: true, alt: true })
    expect(
      openPuppet(editor)
        .drawings['d-hand']!.shapes[0]!.paths[0]!.handles.slice(10, 12)
        .map((h) => Math.round(h) + 0),
    ).toEqual([20, 0])
    click(pointsTool, spot(325, 50), { alt: true })
    expect(openPuppet(editor).drawings['d-hand']!.shapes[0]!.paths[0]!.handles.slice(8, 12)).toEqual([0, 0, 0, 0])
    expect(labels()).toEqual(['Move points', 'Bend point', 'Make corner'])
  })

  test('keys nudge and delete, a cancelled drag leaves everything', () => {
    const before = openPuppet(editor)
    drag(pointsTool, spot(315, 60), spot(325, 50), 'cancel')
    expect(openPuppet(editor)).toEqual(before)
    click(pointsTool, spot(315, 60))
    expect(pointsTool.key!('ArrowUp', host, true)).toBe(true)
    expect(Math.round(hand()[4]!)).toBe(350)
    expect(pointsTool.key!('Delete', host, false)).toBe(true)
    expect(hand()).toHaveLength(6)
  })

  test('an oval and a pen outline come into the selected drawing', () => {
    drag(figureTool, spot(295, 70), spot(305, 90))
    for (const p of [spot(300, 60), spot(310, 60), spot(310, 70)]) click(penTool, p)
    penTool.key!('Enter', host, false)
    expect(openPuppet(editor).drawings['d-hand']!.shapes.map((s) => [s.paths[0]!.closed, s.paths[0]!.ids.length])).toEqual([
      [true, 4],
      [true, 4],
      [false, 3],
    ])
    const ids = openPuppet(editor).drawings['d-hand']!.shapes.flatMap((s) => s.paths[0]!.ids)
    expect(new Set(ids).size).toBe(ids.length)
  })
})

test('selected points are let go of with their part, and a press that changes nothing leaves no entry', () => {
  open('shape')
  selectParts(editor, 'hand')
  selectPoints(editor, [0, 1])
  selectParts(editor, 'sleeve')
  expect(useTouch.of(editor).getState().points.size).toBe(0)
  taperSelected(editor)
  expect(labels()).toEqual([])
})

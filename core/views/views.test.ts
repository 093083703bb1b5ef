import { beforeEach, describe, expect, test } from 'vitest'
import { brokenInvariants } from '../puppet/invariants'
import { newPuppet } from '../puppet/new'
import type { Part, Puppet } from '../puppet/schema'
import { drawingOf, restBounds } from '../parts/tree'
import { inView } from './views'
import { poseRig, posePuppet } from '../puppet/evaluate'
import { compile } from '../puppet/compile'
import { bonePoint, boundsOfParts } from '../puppet/probe'
import { armPuppet, box, drawingPart } from '../test/puppets'
import { bindWhole } from '../binds/commands'
import { setBoneEnds } from '../bones/commands'
import { applyEdits, run, undoChange } from '../puppet/edit'
import { sendPiece } from '../cutting/commands'
import { addJoint, setJoint } from '../joints/commands'
import { movePart, setHome, setPivot } from '../parts/commands'
import { resetPose, setPose } from '../poses/commands'
import { splitSheet } from '../cutting/sheetCommands'
import { makeTwin } from '../twins/commands'
import { addView, deleteView, renameView, setViewArt } from './commands'
import { edit } from '../kernel/command'
import { viewChannel } from './channels'

let puppet: Puppet
const show = (p: Puppet, value: number): Puppet => run(p, setPose, { values: { [viewChannel(p)]: value } })
const sound = (p: Puppet): Puppet => {
  expect(brokenInvariants(p)).toEqual([])
  return p
}

beforeEach(() => {
  puppet = run(armPuppet(), bindWhole, { parts: ['hand'], bone: 'palm' })
  puppet = run(puppet, addJoint, { id: 'wrist', under: 'sleeve', over: 'hand', at: { x: 300, y: 100 }, radius: 18 })
  puppet = run(puppet, addView, { id: 'side', name: 'Side' })
})

describe('a view of its own', () => {
  test('has pivots, homes, order, bones and joints that leave the other view alone', () => {
    const front = puppet
    let side = show(puppet, 1)
    expect(side.view).toBe('side')
    side = run(side, setViewArt, { part: 'hand', view: 'side', art: 'd-hand' })
    side = run(side, setPivot, { part: 'hand', pivot: { x: 305, y: 100 } })
    side = run(side, setHome, { part: 'hand', home: { ...side.parts['hand']!.home, x: 40, y: -10 } })
    side = run(side, movePart, { part: 'hand', parent: side.root, index: 0 })
    side = run(side, setBoneEnds, { bones: [{ bone: 'palm', start: { x: 340, y: 90 }, end: { x: 380, y: 90 } }] })
    side = sound(run(side, setJoint, { joint: 'wrist', at: { x: 340, y: 90 }, radius: 12 }))
    const back = sound(show(side, 0))
    expect(back.parts['hand']).toMatchObject({ pivot: front.parts['hand']!.pivot, home: front.parts['hand']!.home })
    expect(back.parts[back.root]!.children).toEqual(front.parts[front.root]!.children)
    expect(back.bones['palm']).toMatchObject({ start: front.bones['palm']!.start, end: front.bones['palm']!.end })
    expect(back.joints['wrist']).toMatchObject({ at: { x: 300, y: 100 }, radius: 18 })
    const again = show(back, 1)
    expect(again.parts['hand']).toMatchObject({ pivot: { x: 305, y: 100 }, home: { x: 40, y: -10 } })
    expect(again.parts[again.root]!.children).toEqual(['hand', 'sleeve'])
    expect(again.bones['palm']!.start).toEqual({ x: 340, y: 90 })
    expect(again.joints['wrist']).toMatchObject({ at: { x: 340, y: 90 }, radius: 12 })
  })

  test('shows only what was drawn for it', () => {
    const side = show(puppet, 1)
    expect(drawingOf(side, side.parts['hand']!)).toBeNull()
    expect(restBounds(side, side.root)).toBeNull()
    expect(Object.keys(side.parts['hand']!.art)).toEqual(['front'])
    expect(compile(side).shown).toBe(0)
  })

  test('a pose can show it without an edit, as a control will', () => {
    const side = run(show(puppet, 1), setViewArt, { part: 'hand', view: 'side', art: 'd-hand' })
    const front = show(run(side, setHome, { part: 'hand', home: { ...side.parts['hand']!.home, y: 50 } }), 0)
    const box = (pose: Record<string, number>): number => {
      const frame = posePuppet(front, pose)
      return boundsOfParts(frame)[frame.rig.parts.index.get('hand')!]!.minY
    }
    expect(box({})).toBe(85)
    expect(box({ [viewChannel(front)]: 1 })).toBe(135)
    expect(inView(front, 'side')).toBe(inView(front, 'side'))
  })

  test('showing it is one step back', () => {
    const { puppet: side, change } = applyEdits(puppet, [edit(setPose, { values: { [viewChannel(puppet)]: 1 } })])
    expect(undoChange(side, change)).toEqual(puppet)
  })

  test('back to rest stays in the view', () => {
    const posed = run(show(puppet, 1), setPose, { values: { 'bone/upper/angle': 20 } })
    expect(run(posed, resetPose, { channels: null }).pose).toEqual({ [viewChannel(posed)]: 1 })
  })

  test('what came later keeps its neighbours when the order differs', () => {
    let side = show(puppet, 1)
    side = run(side, movePart, { part: 'hand', parent: side.root, index: 0 })
    let front = show(side, 0)
    const ring = box('d-ring', 310, 90, 5, 5)
    front = {
      ...front,
      drawings: { ...front.drawings, 'd-ring': ring },
      parts: {
        ...front.parts,
        ring: { ...drawingPart('ring', 'Ring', ring), parent: front.root },
        [front.root]: { ...front.parts[front.root]!, children: ['sleeve', 'hand', 'ring'] },
      },
    }
    expect(show(front, 1).parts[front.root]!.children).toEqual(['hand', 'ring', 'sleeve'])
  })
})

describe('the list of views', () => {
  test('names are unique, and one view stays', () => {
    expect(() => run(puppet, addView, { id: 'x', name: 'side' })).toThrow('already a view "side"')
    expect(() => run(puppet, renameView, { id: 'front', name: 'Side' })).toThrow('already a view')
    const one = run(puppet, deleteView, { view: 'side' })
    expect(() => run(one, deleteView, { view: 'front' })).toThrow('at least one')
  })

  test('a deleted view takes its artwork along, also when it comes before the shown one', () => {
    const ball = box('d-ball', 0, 0, 9, 9)
    let side = show({ ...puppet, drawings: { ...puppet.drawings, 'd-ball': ball } }, 1)
    side = run(side, setViewArt, { part: 'hand', view: 'side', art: 'd-ball' })
    const front = sound(run(show(side, 0), deleteView, { view: 'side' }))
    expect(front).toMatchObject({ view: 'front', pose: {} })
    expect(front.drawings['d-ball']).toBeUndefined()
    expect(() => run(side, deleteView, { view: 'side' })).toThrow('show another one first')
    const only = sound(run(side, deleteView, { view: 'front' }))
    expect(only).toMatchObject({ view: 'side', pose: {} })
    expect(only.drawings['d-hand']).toBeUndefined()
    expect(Object.values(only.bones).every((b) => Object.keys(b.inViews).length === 0)).toBe(true)
  })

  test('a twin is mirrored in every view', () => {
    let side = show(puppet, 1)
    side = run(side, setHome, { part: 'hand', home: { ...side.parts['hand']!.home, x: 40 } })
    side = run(side, setBoneEnds, { bones: [{ bone: 'palm', start: { x: 340, y: 90 }, end: { x: 380, y: 90 } }] })
    const front = show(side, 0)
    const twinned = sound(run(front, makeTwin, { parts: ['hand'], bones: ['palm'], across: { kind: 'mirror', x: 250 }, prefix: 't' }))
    const bones = Object.values(show(twinned, 1).bones).filter((b) => b.id.startsWith('t-'))
    expect(bones.map((b) => [b.start, b.end])).toEqual([
      [
        { x: 160, y: 90 },
        { x: 120, y: 90 },
      ],
    ])
    const hand = Object.values(show(twinned, 1).parts).find((p) => p.twin)!
    expect(hand.home.x).not.toBe(Object.values(twinned.parts).find((p) => p.twin)!.home.x)
  })
})

describe('a sheet', () => {
  /** Two figures side by side as one drawing. */
  function flat(): Puppet {
    const [left, right] = [box('d-sheet', 40, 20, 60, 160), box('x', 240, 40, 50, 140)]
    const drawing = {
      ...left,
      shapes: [...left.shapes, { ...right.shapes[0]!, id: 1, paths: [{ ...right.shapes[0]!.paths[0]!, ids: [4, 5, 6, 7] }] }],
    }
    const part: Part = { ...drawingPart('sheet', 'Sheet', drawing) }
    const empty = newPuppet('doc', 'Dock', { width: 320, height: 200 })
    return {
      ...empty,
      drawings: { 'd-sheet': drawing },
      parts: { [empty.root]: { ...empty.parts[empty.root]!, children: ['sheet'] }, sheet: { ...part, parent: empty.root } },
    }
  }

  function split(): Puppet {
    const p = flat()
    const [left, right] = p.drawings['d-sheet']!.shapes
    return run(p, splitSheet, {
      part: 'sheet',
      sheet: {
        whole: { sheet: 'd-sheet' },
        home: p.parts['sheet']!.home,
        cells: [
          { view: 'front', box: { x: 30, y: 10, width: 80, height: 180 }, spot: { x: 70, y: 180 } },
          { view: 'side', box: { x: 230, y: 30, width: 70, height: 160 }, spot: { x: 265, y: 180 } },
        ],
      },
      views: [{ id: 'side', name: 'Side' }],
      pieces: [
        { part: 'sheet', view: 'front', art: { drawing: { id: 'c-1', shapes: [left!] } } },
        { part: 'sheet', view: 'side', art: { drawing: { id: 'c-2', shapes: [right!] } } },
      ],
      spot: { x: 70, y: 180 },
      canvas: { width: 140, height: 200 },
    })
  }

  test('shows one cell in each view, feet on one spot, and keeps the whole', () => {
    const front = sound(split())
    expect(restBounds(front, 'sheet')).toMatchObject({ minX: 40, maxX: 100, maxY: 180 })
    const side = sound(show(front, 1))
    expect(restBounds(side, 'sheet')).toMatchObject({ minX: 45, maxX: 95, maxY: 180 })
    expect(side.drawings['d-sheet']).toBeDefined()
    expect(side.canvas.width).toBe(140)
  })

  test('what is cut in the second view goes into the parts of the first, and turns where it should', () => {
    let p = split()
    const piece = (id: string, x: number): { drawing: ReturnType<typeof box> } => ({ drawing: box(id, x, 100, 30, 60) })
    p = run(p, sendPiece, {
      source: 'sheet',
      view: 'front',
      piece: piece('a-1', 50),
      rest: null,
      to: { kind: 'new', id: 'leg', name: 'Leg', role: null },
    })
    p = run(p, setPivot, { part: 'leg', pivot: { x: 65, y: 100 } })
    let side = show(p, 1)
    expect(drawingOf(side, side.parts['leg']!)).toBeNull()
    side = run(side, sendPiece, {
      source: 'sheet',
      view: 'side',
      piece: piece('a-2', 250),
      rest: null,
      to: { kind: 'part', part: 'leg' },
    })
    sound(side)
    expect(Object.keys(side.parts['leg']!.art)).toEqual(['front', 'side'])
    expect(restBounds(side, 'leg')).toMatchObject({ minX: 55, maxX: 85 })
    const frame = poseRig(compile(run(side, setPose, { values: { 'part/leg/angle': 90 } })))
    // The pivot is in the middle of its top edge here as well: turned by 90 degrees the leg points to the right.
    const turned = boundsOfParts(frame)[frame.rig.parts.index.get('leg')!]!
    expect([turned.minX, turned.maxX, turned.minY, turned.maxY].map(Math.round)).toEqual([70, 130, 85, 115])
  })

  test('other cells take the place of the first ones', () => {
    const p = split()
    const { sheet } = p.parts['sheet']!
    const again = sound(
      run(p, splitSheet, {
        part: 'sheet',
        sheet: { ...sheet!, cells: [{ ...sheet!.cells[0]!, spot: { x: 40, y: 180 } }] },
        views: [],
        pieces: [{ part: 'sheet', view: 'front', art: { drawing: { ...p.drawings['c-1']!, id: 'c-3' } } }],
        spot: { x: 70, y: 180 },
        canvas: null,
      }),
    )
    expect(again.drawings['c-1']).toBeUndefined()
    expect(again.drawings['c-2']).toBeUndefined()
    expect(restBounds(again, 'sheet')).toMatchObject({ minX: 70 })
  })
})

test('a bone is drawn where the view has it', () => {
  const side = run(show(puppet, 1), setBoneEnds, { bones: [{ bone: 'palm', start: { x: 340, y: 90 }, end: { x: 380, y: 90 } }] })
  const frame = posePuppet(show(side, 0), { [viewChannel(side)]: 1 })
  expect(bonePoint(frame, frame.rig.bones.index.get('palm')!, 1)).toEqual({ x: 380, y: 90 })
})

import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { addPoint, changePaths } from '../artwork/touch/points'
import { pointsOf, writeBack } from '../touch/posedPaths'
import { brokenInvariants } from '../puppet/invariants'
import type { Change } from '../responses/records'
import type { Drawing } from '../artwork/records'
import type { Puppet } from '../puppet/schema'
import { moveParts } from '../parts/arrange'
import { addBone, setBoneEnds } from '../bones/commands'
import { applyEdits, run, redoChange, undoChange } from '../puppet/edit'
import { changeArt } from '../joints/commands'
import { deletePart, showPart } from '../parts/commands'
import { setPose } from '../poses/commands'
import { recordStop } from '../responses/commands'
import { compile } from '../puppet/compile'
import { poseRig } from '../puppet/evaluate'
import { posedMap } from '../puppet/posedMap'
import { answered, answeringArm, by, curvy, ruler, seen, withResponses } from '../test/responding'
import { ownValues } from './inverse'
import { recordedChanges } from './record'
import { shownDrawing } from './shown'
import { edit, type Edit } from '../kernel/command'
import { drawingBy } from '../artwork/art'

/** A puppet at a stop of a response, and what edits are recorded into. */
class Recorder {
  constructor(
    public puppet: Puppet,
    readonly id = 'r',
    readonly stop = 'at1',
  ) {}

  record(edits: readonly Edit[], part: string | null = null): Change[] {
    const response = this.puppet.responses.find((r) => r.id === this.id)!
    const stop = response.stops.find((s) => s.id === this.stop)!
    const changes = recordedChanges(poseRig(compile(this.puppet)), this.puppet, applyEdits(this.puppet, edits).puppet, {
      response,
      stop,
      part,
    })
    this.puppet = run(this.puppet, recordStop, { response: this.id, stop: this.stop, changes })
    return changes
  }

  /** The drawing of a part as it is seen. */
  seen(part: string): Drawing {
    const frame = poseRig(compile(this.puppet))
    return shownDrawing(frame, part, this.drawing(part), posedMap(frame, part))
  }

  drawing = (part: string): Drawing => drawingBy(this.puppet, this.puppet.parts[part]!.art['front']!)!

  /** Edits a drawing as it is seen, as the tools do. */
  touch(part: string, change: (seen: Drawing) => Drawing): Drawing {
    const frame = poseRig(compile(this.puppet))
    const [rest, map] = [this.drawing(part), posedMap(frame, part)]
    const before = shownDrawing(frame, part, rest, map)
    const wanted = change(before)
    this.record([edit(changeArt, { drawings: [writeBack(rest, before, wanted, map)], pictures: [] })], part)
    return wanted
  }
}

const atStop = (puppet: Puppet, pose: Readonly<Record<string, number>> = {}): Recorder => {
  const made = withResponses(puppet, ruler('r', 'a', { '1': [] }))
  return new Recorder(run(made, setPose, { values: { 'control/a/value': 1, ...pose } }))
}

/** Moves anchors and handles of a drawing about. */
const shaken = (drawing: Drawing, shifts: readonly number[]): Drawing => {
  let k = 0
  const next = (): number => shifts[k++ % shifts.length]!
  return {
    ...drawing,
    shapes: drawing.shapes.map((s) => ({
      ...s,
      paths: s.paths.map((p) => ({ ...p, anchors: p.anchors.map((v) => v + next()), handles: p.handles.map((v) => v + next()) })),
    })),
  }
}

const furthest = (a: Drawing, b: Drawing): number => {
  const other = pointsOf(b)
  return Math.max(
    ...[...pointsOf(a)].map(([id, p]) => {
      const q = other.get(id)!
      return Math.max(Math.hypot(p.x - q.x, p.y - q.y), ...p.handles.map((h, k) => Math.abs(h - q.handles[k]!)))
    }),
  )
}

describe('points recorded in a pose', () => {
  const shifts = fc.array(fc.double({ min: -12, max: 12, noNaN: true }), { minLength: 9, maxLength: 24 })

  test('are seen where they were put, to 1e-4 px, in pieces and in bends of both kinds', () => {
    fc.assert(
      fc.property(
        shifts,
        shifts,
        fc.constantFrom('volume' as const, 'linear' as const),
        fc.double({ min: -110, max: 110, noNaN: true }),
        fc.constantFrom(['sleeve', 'd-sleeve'] as const, ['hand', 'd-hand'] as const),
        (first, second, mode, bend, [part, drawing]) => {
          const recorder = atStop(curvy(answeringArm(mode), drawing), { 'bone/lower/angle': bend, 'part/hand/scaleX': 1.4 })
          for (const shift of [first, second]) {
            const wanted = recorder.touch(part, (d) => shaken(d, shift))
            expect(furthest(wanted, recorder.seen(part))).toBeLessThan(1e-4)
          }
          expect(brokenInvariants(recorder.puppet)).toEqual([])
        },
      ),
      { seed: 11, numRuns: 60 },
    )
  })

  test('straight lines that are drawn to curves are seen as they were drawn', () => {
    const recorder = atStop(answeringArm(), { 'bone/lower/angle': 60 })
    const bowed = (d: Drawing): Drawing => ({
      ...d,
      shapes: d.shapes.map((s) => ({
        ...s,
        paths: s.paths.map((p) => ({ ...p, handles: p.handles.map((v, k) => (k === 2 ? v + 20 : k === 3 ? v - 15 : v)) })),
      })),
    })
    const wanted = recorder.touch('hand', bowed)
    const now = pointsOf(recorder.seen('hand'))
    expect(now.get(0)!.handles[2]).toBeCloseTo(pointsOf(wanted).get(0)!.handles[2]!, 4)
    expect(now.get(0)!.handles[3]).toBeCloseTo(pointsOf(wanted).get(0)!.handles[3]!, 4)
    expect(now.get(1)!.handles.every((h) => Math.abs(h) < 1e-6)).toBe(true)
  })

  test('a drawing edited while a response moves it keeps what is seen of it', () => {
    const recorder = atStop(curvy(answeringArm(), 'd-sleeve'), { 'bone/lower/angle': 70 })
    recorder.touch('sleeve', (d) => shaken(d, [6, -3, 2]))
    const frame = poseRig(compile(recorder.puppet))
    const [rest, map] = [recorder.drawing('sleeve'), posedMap(frame, 'sleeve')]
    const before = shownDrawing(frame, 'sleeve', rest, map)
    const wanted: Drawing = {
      ...before,
      shapes: before.shapes.map((s) => ({
        ...s,
        paths: s.paths.map((p) => ({ ...p, anchors: p.anchors.map((v, k) => (k === 2 ? v + 2 : v)) })),
      })),
    }
    recorder.puppet = run(recorder.puppet, changeArt, { drawings: [writeBack(rest, before, wanted, map)], pictures: [] })
    expect(furthest(wanted, recorder.seen('sleeve'))).toBeLessThan(0.6)
    expect(recorder.puppet.responses[0]!.stops[0]!.changes).toHaveLength(1)
  })
})

describe('other changes', () => {
  test('poses are added to what is there, and taken out again when they are brought back', () => {
    const recorder = atStop(answeringArm(), { 'bone/lower/angle': 20 })
    const pose = (angle: number): void => {
      const frame = poseRig(compile(recorder.puppet))
      const values = ownValues(frame, recorder.puppet, { 'bone/lower/angle': angle })
      recorder.record([edit(setPose, { values })])
    }
    pose(50)
    pose(80)
    expect(recorder.puppet.responses[0]!.stops[0]!.changes).toEqual([by('bone/lower/angle', 60)])
    expect(seen(poseRig(compile(recorder.puppet)), 'bone/lower/angle')).toBe(80)
    expect(recorder.puppet.pose['bone/lower/angle']).toBe(20)
    pose(20)
    expect(recorder.puppet.responses[0]!.stops[0]!.changes).toEqual([])
  })

  test('scales are recorded as factors of what is seen', () => {
    const recorder = atStop(answeringArm(), { 'part/hand/scaleX': 2 })
    for (const wanted of [3, 5]) {
      const values = ownValues(poseRig(compile(recorder.puppet)), recorder.puppet, { 'part/hand/scaleX': wanted })
      recorder.record([edit(setPose, { values })])
      expect(seen(poseRig(compile(recorder.puppet)), 'part/hand/scaleX')).toBeCloseTo(wanted, 9)
    }
  })

  test('hiding, opacity, paint order, colours and line widths', () => {
    const recorder = atStop(answeringArm())
    recorder.record([edit(showPart, { parts: ['hand'], visible: false })])
    recorder.record([edit(moveParts, { parts: ['hand'], parent: recorder.puppet.root, index: 0 })], 'hand')
    const drawing = recorder.drawing('sleeve')
    const red: Drawing = {
      ...drawing,
      shapes: drawing.shapes.map((s) => ({ ...s, ink: { ...s.ink!, paint: { kind: 'flat', colour: '#cc0000' } } })),
    }
    recorder.record([edit(changeArt, { drawings: [red], pictures: [] })], 'sleeve')
    expect(recorder.puppet.responses[0]!.stops[0]!.changes.map((c) => c.kind)).toEqual(['choice', 'choice', 'paint'])
    expect(recorder.puppet.drawings['d-sleeve']).toEqual(drawing)
    const frame = poseRig(compile(recorder.puppet))
    expect(frame.shown[frame.rig.parts.index.get('hand')!]).toBe(0)
    expect(seen(frame, 'part/hand/order')).toBe(-1)
    expect([...frame.paintOverrides.slice(0, 3)].map((v) => Math.round(v * 255))).toEqual([0xcc, 0, 0])
  })

  test('what is no change of a pose is refused with a sentence, and nothing is lost', () => {
    const recorder = atStop(answeringArm())
    const before = recorder.puppet
    const refused = (edits: Edit[], why: RegExp): void => {
      expect(() => recorder.record(edits)).toThrow(why)
      expect(recorder.puppet).toBe(before)
    }
    refused([edit(setPose, { values: { 'control/a/value': 0.5 } })], /input stays at its stop/)
    refused([edit(deletePart, { part: 'hand' })], /Parts that come or go/)
    refused([edit(setBoneEnds, { bones: [{ bone: 'palm', start: { x: 300, y: 100 }, end: { x: 350, y: 90 } }] })], /Bones at rest/)
    refused([edit(addBone, { id: 'x', name: 'X', parent: null, start: { x: 0, y: 0 }, end: { x: 9, y: 9 } })], /not part of a recording/)
    const drawing = recorder.drawing('hand')
    const fewer: Drawing = {
      ...drawing,
      shapes: drawing.shapes.map((s) => ({
        ...s,
        paths: s.paths.map((p) => ({ ...p, ids: p.ids.slice(1), anchors: p.anchors.slice(2), handles: p.handles.slice(4) })),
      })),
    }
    refused([edit(changeArt, { drawings: [fewer], pictures: [] })], /keeps the points that there are/)
  })
})

describe('recordings and later edits of the drawing', () => {
  const recorded = (): Recorder => {
    const recorder = atStop(curvy(answeringArm(), 'd-hand'))
    recorder.touch('hand', (d) => shaken(d, [5, -4, 3, 1]))
    return recorder
  }
  const change = (p: Puppet) => p.responses[0]!.stops[0]!.changes[0]! as Extract<Change, { kind: 'points' }>

  test('a point that is added on the outline changes nothing of it at the stop', () => {
    const recorder = recorded()
    const outline = (p: Puppet): number[][] => {
      const frame = answered(p, { a: 1 })
      const d = frame.rig.drawings.findIndex((k) => frame.rig.parts.ids[k.part] === 'hand')
      const pts = frame.points[d]!
      const at = (i: number, axis: number): number => pts[2 * i + axis]!
      const out: number[][] = []
      for (let s = 0; s < (pts.length / 2 - 1) / 3; s++)
        for (let t = 0; t < 1; t += 0.05) {
          const u = 1 - t
          out.push(
            [0, 1].map(
              (x) =>
                u ** 3 * at(3 * s, x) + 3 * u * u * t * at(3 * s + 1, x) + 3 * u * t * t * at(3 * s + 2, x) + t ** 3 * at(3 * s + 3, x),
            ),
          )
        }
      return out
    }
    const before = outline(recorder.puppet)
    const drawing = recorder.drawing('hand')
    const more = changePaths(drawing, (path) => addPoint(path, 1, 0.3, 9))
    const puppet = run(recorder.puppet, changeArt, { drawings: [more], pictures: [] })
    expect(change(puppet).ids).toHaveLength(5)
    for (const p of outline(puppet)) expect(Math.min(...before.map((q) => Math.hypot(p[0]! - q[0]!, p[1]! - q[1]!)))).toBeLessThan(1.6)
    const corner = change(recorder.puppet).by.slice(0, 2)
    expect(change(puppet).by.slice(0, 2)).toEqual(corner)
  })

  test('a point that is deleted takes its own along, and undo brings it back', () => {
    const recorder = recorded()
    const drawing = recorder.drawing('hand')
    const fewer: Drawing = {
      ...drawing,
      shapes: drawing.shapes.map((s) => ({
        ...s,
        paths: s.paths.map((p) => ({ ...p, ids: p.ids.slice(0, 3), anchors: p.anchors.slice(0, 6), handles: p.handles.slice(0, 12) })),
      })),
    }
    const { puppet, change: done } = applyEdits(recorder.puppet, [edit(changeArt, { drawings: [fewer], pictures: [] })])
    expect(change(puppet).ids).toEqual([0, 1, 2])
    expect(undoChange(puppet, done)).toEqual(recorder.puppet)
    expect(redoChange(recorder.puppet, done)).toEqual(puppet)
  })

  test('what answers with parts that are gone goes with them', () => {
    const recorder = recorded()
    const puppet = run(recorder.puppet, deletePart, { part: 'hand' })
    expect(puppet.responses[0]!.stops[0]!.changes).toEqual([])
    expect(brokenInvariants(puppet)).toEqual([])
  })
})

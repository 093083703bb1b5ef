import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { autoWeights } from '../binds/autoWeights'
import { canonicalJson } from '../kernel/json'
import { parsePuppet } from './invariants'
import type { Puppet } from './schema'
import { armPuppet } from '../test/puppets'
import { bindBlended, bindWhole, setBindMode, unbind } from '../binds/commands'
import { addBone, colourChain, deleteBone, dragBoneEnd, hangBone, renameBone, setBoneEnds, setLimits } from '../bones/commands'
import { canUndo, HISTORY_LENGTH, perform, redo, startHistory, undo, walkTo, type History } from './history'
import { setBlend, setEffect, setMasks } from '../layering/commands'
import { foldGroups, pointlessGroups } from '../parts/nesting'
import { deletePart, groupParts, movePart, renamePart, setHome, setPartOpacity, setPivot, showPart } from '../parts/commands'
import { resetPose, setPose } from '../poses/commands'
import { renamePuppet, setCanvas, setNote, takeVersion } from './puppetCommands'
import { bonesWithBranches, labelBones, mirrorBones, splitBone } from '../skeleton/commands'
import { edit, type Edit } from '../kernel/command'
import { EditError } from '../kernel/errors'

/** Weights of the sleeve for one and for two bones, made once. */
const FIELDS = [['upper'], ['upper', 'lower']].map((bones) => autoWeights(armPuppet(), 'sleeve', bones))

/** Picks from what the puppet has, by a number from 0 to 1. */
const pick = <T>(list: readonly T[], at: number): T | undefined => list[Math.min(list.length - 1, Math.floor(at * list.length))]

type Maker = (puppet: Puppet, a: number, b: number, c: number) => Edit | null

const part = (p: Puppet, at: number): string => pick(Object.keys(p.parts), at)!
const bone = (p: Puppet, at: number): string => pick(Object.keys(p.bones), at) ?? 'none'
const spot = (a: number, b: number) => ({ x: Math.round(a * 400), y: Math.round(b * 300) })
/** Ids must be new each time; the count of things ever made would do, a random number is simpler. */
const id = (kind: string, c: number): string => `${kind}-${Math.floor(c * 1e9)}`

/** One maker for each kind of edit; arguments are often out of place on purpose. */
const MAKERS: readonly Maker[] = [
  (p, a, b) => edit(renamePart, { part: part(p, a), name: `Part ${Math.round(b * 99)}` }),
  (p, a, b, c) => edit(movePart, { part: part(p, a), parent: part(p, b), index: Math.floor(c * 4) }),
  (p, a, b) => edit(showPart, { parts: [part(p, a)], visible: b > 0.5 }),
  (p, a, b) => edit(setPartOpacity, { part: part(p, a), opacity: b }),
  (p, a, b, c) => edit(groupParts, { parts: [part(p, a), part(p, b)], id: id('group', c), name: 'Group' }),
  (p, a) => edit(deletePart, { part: part(p, a) }),
  (p, a, b, c) => edit(setPivot, { part: part(p, a), pivot: spot(b, c) }),
  (p, a, b, c) => edit(setHome, { part: part(p, a), home: { ...spot(b, c), angle: b * 90, scaleX: 0.5 + c, scaleY: 1, skew: 5 * c } }),
  (p, a, b, c) =>
    edit(addBone, {
      id: id('bone', c),
      name: 'Bone',
      parent: a > 0.3 && Object.keys(p.bones).length > 0 ? bone(p, a) : null,
      start: spot(a, b),
      end: spot(b, c),
    }),
  (p, a, b) => edit(renameBone, { bone: bone(p, a), name: `Bone ${Math.round(b * 99)}` }),
  (p, a, b) => edit(hangBone, { bone: bone(p, a), parent: b > 0.8 ? null : bone(p, b) }),
  (p, a, b) => edit(deleteBone, { bone: bone(p, a), withChildren: b > 0.5 }),
  (p, a, b, c) =>
    p.bones[bone(p, a)] ? edit(setBoneEnds, dragBoneEnd(p, bone(p, a), pick(['start', 'end', 'both'] as const, c)!, spot(b, c))) : null,
  (p, a, b) => edit(colourChain, { bones: [bone(p, a)], colour: 1 + Math.floor(b * 8) }),
  (p, a, b, c) =>
    edit(setLimits, { bone: bone(p, a), limits: { min: b > 0.5 ? -Math.round(90 * b) : null, max: c > 0.5 ? Math.round(90 * c) : null } }),
  (p, a, b) => edit(bindWhole, { parts: [part(p, a)], bone: bone(p, b) }),
  (p, a, b) => {
    const bones = [...new Set([bone(p, a), bone(p, b)])]
    if (!p.parts['sleeve'] || bones.includes('none')) return null
    return edit(bindBlended, {
      part: 'sleeve',
      bones,
      field: FIELDS[bones.length - 1]!,
    })
  },
  (p, a, b, c) =>
    edit(splitBone, { bone: bone(p, a), ids: Array.from({ length: 1 + Math.floor(3 * b) }, (_, k) => `${id('piece', c)}-${k}`) }),
  (p, a, b, c) =>
    p.bones[bone(p, a)]
      ? edit(mirrorBones, {
          bones: [bone(p, a)],
          ids: Object.fromEntries(bonesWithBranches(p, [bone(p, a)]).map((from, k) => [from, `${id('mirrored', c)}-${k}`])),
          at: 500 * b,
        })
      : null,
  (p, a, b) => edit(labelBones, { bones: [bone(p, a)], label: `Label ${Math.round(b * 9)}` }),
  (p, a, b) => edit(setMasks, { part: part(p, a), masks: [{ shape: part(p, b), keep: a > 0.5 ? 'inside' : 'outside', by: 'area' }] }),
  (p, a, b) => edit(setBlend, { part: part(p, a), blend: b > 0.5 ? 'multiply' : 'normal' }),
  (p, a, b) =>
    edit(setEffect, {
      part: part(p, a),
      effect: b > 0.5 ? { region: null, steps: [{ step: 'blur', of: 'source', x: 10 * b, y: 1, linear: true }] } : null,
    }),
  (p) => (pointlessGroups(p, new Set()).length > 0 ? edit(foldGroups, { groups: pointlessGroups(p, new Set()), named: [] }) : null),
  (p, a) => edit(setBindMode, { part: part(p, a), mode: a > 0.5 ? 'volume' : 'linear' }),
  (p) => edit(takeVersion, { version: p }),
  (p, a, b) => edit(setPose, { values: { [`bone/${bone(p, a)}/x`]: 40 * b } }),
  (p, a) => edit(unbind, { parts: [part(p, a)] }),
  (p, a, b) => edit(setPose, { values: { [`bone/${bone(p, a)}/angle`]: 180 * b - 90 } }),
  (p, a, b, c) => edit(setPose, { values: { [`part/${part(p, a)}/x`]: 50 * b, [`part/${part(p, a)}/scaleY`]: 0.5 + c } }),
  (p, a) => edit(resetPose, { channels: a > 0.5 ? null : Object.keys(p.pose).slice(0, 1) }),
  (_, a) => edit(renamePuppet, { name: `Puppet ${Math.round(a * 9)}` }),
  (_, a, b) => edit(setCanvas, { width: 1 + 900 * a, height: 1 + 900 * b, background: a > 0.5 ? '#aabbcc' : null }),
  (_, a) => edit(setNote, { note: `${a}` }),
]

const unit = fc.double({ min: 0, max: 0.999999, noNaN: true })
const step = fc.record({
  maker: fc.nat(MAKERS.length - 1),
  a: unit,
  b: unit,
  c: unit,
  walk: fc.constantFrom('edit', 'edit', 'edit', 'edit', 'undo', 'redo'),
})

/** Does one random step; a refusal leaves the history as it was. */
function take(history: History, s: { maker: number; a: number; b: number; c: number; walk: string }): History {
  if (s.walk === 'undo') return undo(history)
  if (s.walk === 'redo') return redo(history)
  const made = MAKERS[s.maker]!(history.puppet, s.a, s.b, s.c)
  if (!made) return history
  try {
    return perform(history, [made])
  } catch (error) {
    if (error instanceof EditError) return history
    throw error
  }
}

describe('history', () => {
  test('random commands with undo and redo keep the puppet sound and come back byte for byte', () => {
    const start = armPuppet()
    const first = canonicalJson(start)
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 40 }), (steps) => {
        let history = startHistory(start)
        for (const s of steps) {
          history = take(history, s)
          parsePuppet(history.puppet)
        }
        const present = canonicalJson(history.puppet)
        const { done } = history
        const beginning = walkTo(history, 0)
        expect(canonicalJson(beginning.puppet)).toBe(first)
        expect(canonicalJson(walkTo(beginning, done).puppet)).toBe(present)
        const end = walkTo(beginning, history.changes.length)
        parsePuppet(end.puppet)
        expect(canonicalJson(walkTo(end, done).puppet)).toBe(present)
      }),
      { numRuns: 120, seed: 20 },
    )
  })

  test('makers reach every kind of command often enough to matter', () => {
    let history = startHistory(armPuppet())
    const accepted = MAKERS.filter((_, maker) => {
      const before = history
      for (let k = 1; k <= 20; k++)
        history = take(history, { maker, a: (k * 0.37) % 1, b: (k * 0.61) % 1, c: (k * 0.83) % 1, walk: 'edit' })
      const changed = history !== before
      history = startHistory(armPuppet())
      return changed
    })
    // Unbinding, resetting, folding, choosing how to bend and going back need something to act on; every other maker
    // works on a fresh puppet.
    expect(accepted.length).toBeGreaterThanOrEqual(MAKERS.length - 5)
  })

  test('a change of nothing leaves no entry', () => {
    const history = perform(startHistory(armPuppet()), [edit(renamePart, { part: 'hand', name: 'Hand' })])
    expect(canUndo(history)).toBe(false)
  })

  test('a new change drops what could be redone', () => {
    let history = perform(startHistory(armPuppet()), [edit(renamePart, { part: 'hand', name: 'Paw' })])
    history = perform(undo(history), [edit(renamePart, { part: 'hand', name: 'Claw' })])
    expect(history.changes).toHaveLength(1)
    expect(redo(history)).toEqual(history)
  })

  test('old changes are forgotten, the newest stay', () => {
    let history = startHistory(armPuppet())
    for (let i = 0; i < HISTORY_LENGTH + 5; i++) history = perform(history, [edit(setNote, { note: `${i}` })])
    expect(history.changes).toHaveLength(HISTORY_LENGTH)
    expect(walkTo(history, 0).puppet.note).toBe('4')
  })
})

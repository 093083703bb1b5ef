import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import type { Puppet } from '@marionette/core/puppet/schema'
import { setNote } from '@marionette/core/puppet/puppetCommands'
import { armPuppet } from '@marionette/core/test/puppets'
import { quietEditor } from '../../test/quietEditor'
import { saveNow, startAutosave } from './autosave'
import { closeDocument, openPuppet, perform, undo, useDocument } from '../document'
import { openStored } from './opening'
import { thisTab } from './tab'
import { edit } from '@marionette/core/kernel/command'
import { CURRENT_VERSION } from '@marionette/core/puppet/schema'

/** A server that is scripted, and the browser's own keeping. */
const world = vi.hoisted(() => ({
  stored: null as unknown as { puppet: unknown; revision: number; saveId?: string | null },
  isFull: false,
  answers: [] as (Error | 'ok')[],
  saves: [] as number[],
  kept: new Map<string, unknown>(),
}))

vi.mock('../../storage/api', async (original) => ({
  ...(await original<typeof import('../../storage/api')>()),
  needAssets: async () => [],
  loadPuppet: async () => ({ saveId: null, ...world.stored }),
  savePuppet: async ({ puppet, base, saveId }: { puppet: unknown; base: number; saveId: string }) => {
    world.saves.push(base)
    const answer = world.answers.shift() ?? 'ok'
    if (answer !== 'ok') throw answer
    world.stored = { puppet, revision: base + 1, saveId }
    return { revision: base + 1 }
  },
}))
vi.mock('idb-keyval', () => ({
  entries: async () => [...world.kept.entries()],
  set: async (key: string, value: unknown) => {
    if (world.isFull) throw new DOMException('full', 'QuotaExceededError')
    world.kept.set(key, structuredClone(value))
  },
  del: async (key: string) => void world.kept.delete(key),
}))

const { editor } = quietEditor()
const { RequestError } = await import('../../storage/api')
const note = (text: string): boolean => perform(editor, [edit(setNote, { note: text })])
const state = () => useDocument.of(editor).getState().save
/** Lets a moment pass, and everything that waits for it. */
const pass = (ms: number): Promise<unknown> => vi.advanceTimersByTimeAsync(ms)

let stop: () => void

beforeEach(async () => {
  vi.useFakeTimers()
  world.stored = { puppet: armPuppet(), revision: 1 }
  world.answers = []
  world.saves = []
  world.isFull = false
  world.kept.clear()
  await openStored(editor, 'arm')
  stop = startAutosave(editor, await thisTab())
})

afterEach(async () => {
  stop()
  await pass(10_000)
  closeDocument(editor)
  vi.useRealTimers()
})

describe('autosave', () => {
  test('at once where that is asked for', async () => {
    note('a')
    await pass(0)
    expect(world.saves).toEqual([])
    saveNow(editor)
    await pass(0)
    expect(world.saves).toEqual([1])
    expect(state()).toEqual({ kind: 'saved', revision: 2 })
  })

  test('a moment after the last change, once', async () => {
    note('a')
    await pass(300)
    note('b')
    expect(state().kind).toBe('changed')
    await pass(2000)
    expect(world.saves).toEqual([1])
    expect((world.stored.puppet as Puppet).note).toBe('b')
    expect(state()).toEqual({ kind: 'saved', revision: 2 })
  })

  test('walking back to what the server has needs no save', async () => {
    note('a')
    undo(editor)
    expect(state().kind).toBe('saved')
    await pass(2000)
    expect(world.saves).toEqual([])
  })

  test('while the server is away it is tried again until it answers', async () => {
    world.answers = [new RequestError(0, 'away'), new RequestError(500, 'broken')]
    note('a')
    await pass(1000)
    expect(state().kind).toBe('offline')
    await pass(10_000)
    expect(world.saves).toHaveLength(3)
    expect(state()).toEqual({ kind: 'saved', revision: 2 })
  })

  test('a conflict stops saving, and nothing is overwritten', async () => {
    world.answers = [new RequestError(412, 'elsewhere', 7)]
    note('a')
    await pass(1000)
    expect(state()).toEqual({ kind: 'conflict', revision: 7 })
    note('b')
    await pass(10_000)
    expect(world.saves).toHaveLength(1)
  })

  test('going on with what the server has saves nothing by itself', async () => {
    world.answers = [new RequestError(412, 'elsewhere', 7)]
    note('mine')
    await pass(1000)
    world.kept.clear()
    world.stored = { puppet: { ...armPuppet(), note: 'theirs' }, revision: 7 }
    await openStored(editor, 'arm')
    await pass(5000)
    expect(world.saves).toHaveLength(1)
    note('on top')
    await pass(2000)
    expect(world.saves).toEqual([1, 7])
  })

  test('closing saves what is left', async () => {
    note('a')
    stop()
    await pass(0)
    expect((world.stored.puppet as Puppet).note).toBe('a')
  })
})

describe('opening', () => {
  test('brings the history along when nobody saved in between', async () => {
    note('a')
    await pass(2000)
    closeDocument(editor)
    expect((await openStored(editor, 'arm')).kind).toBe('fresh')
    expect(openPuppet(editor).note).toBe('a')
    undo(editor)
    expect(openPuppet(editor)).toEqual(armPuppet())
  })

  test('takes up edits that never reached the server', async () => {
    world.answers = Array.from({ length: 20 }, () => new RequestError(0, 'away'))
    note('lost?')
    await pass(1000)
    stop()
    await pass(100)
    closeDocument(editor)
    expect((await openStored(editor, 'arm')).kind).toBe('recovered')
    expect(openPuppet(editor).note).toBe('lost?')
    world.answers = []
    stop = startAutosave(editor, await thisTab())
    await pass(1000)
    expect((world.stored.puppet as Puppet).note).toBe('lost?')
  })

  test('shows a conflict when somebody else saved meanwhile', async () => {
    world.answers = Array.from({ length: 20 }, () => new RequestError(0, 'away'))
    note('mine')
    await pass(1000)
    stop()
    await pass(100)
    closeDocument(editor)
    world.stored = { puppet: { ...armPuppet(), note: 'theirs' }, revision: 5 }
    expect((await openStored(editor, 'arm')).kind).toBe('conflict')
    expect(openPuppet(editor).note).toBe('mine')
    expect(state()).toEqual({ kind: 'conflict', revision: 5 })
  })

  test('what the server has goes before what was kept and confirmed', async () => {
    note('a')
    await pass(2000)
    closeDocument(editor)
    world.stored = { puppet: { ...armPuppet(), note: 'newer' }, revision: 9 }
    expect((await openStored(editor, 'arm')).kind).toBe('fresh')
    expect(openPuppet(editor).note).toBe('newer')
  })
})

describe('other windows', () => {
  /** A draft that a window which is gone has left. */
  const left = (tab: string, text: string, revision: number, more: Record<string, unknown> = {}): void => {
    const puppet = { ...armPuppet(), note: text }
    const draft = { tab, seq: 5, revision, puppet, changes: [], done: 0, confirmed: false, at: revision, recording: null, ...more }
    world.kept.set(`draft/arm/${tab}`, draft)
  }
  const reopen = async () => {
    stop()
    await pass(10)
    closeDocument(editor)
    const opening = await openStored(editor, 'arm')
    stop = startAutosave(editor, await thisTab())
    return opening
  }

  test('that are gone hand their work on: the newest is taken up, the rest is offered, all of it', async () => {
    world.kept.clear()
    left('aaaa', 'first', 1)
    left('bbbb', 'second', 1, { at: 9 })
    const opening = await reopen()
    expect(opening.kind).toBe('recovered')
    expect(openPuppet(editor).note).toBe('second')
    expect(opening.unsent.map((d) => d.puppet.note)).toEqual(['first'])
    // What was neither kept nor discarded is offered again.
    expect((await reopen()).unsent.map((d) => d.puppet.note)).toEqual(['first'])
  })

  test('work that the server has by now is not offered', async () => {
    world.kept.clear()
    left('aaaa', 'there', 1)
    world.stored = { puppet: { ...armPuppet(), note: 'there' }, revision: 2, saveId: 'aaaa-5-1' }
    const opening = await reopen()
    expect([opening.kind, opening.unsent.length]).toEqual(['fresh', 0])
  })

  test('a save of a window whose answer was lost is no conflict for the one that goes on', async () => {
    world.kept.clear()
    left('aaaa', 'newer', 1, { seq: 9 })
    world.stored = { puppet: { ...armPuppet(), note: 'older' }, revision: 2, saveId: 'aaaa-7-1' }
    expect((await reopen()).kind).toBe('recovered')
    await pass(3000)
    expect((world.stored.puppet as Puppet).note).toBe('newer')
  })

  test('drafts of an older version of the document are brought up', async () => {
    world.kept.clear()
    left('aaaa', 'old', 1, {
      puppet: { ...armPuppet(), note: 'old', version: 10 },
      changes: [{ label: 'x', patches: [], inverse: [] }],
      done: 1,
    })
    expect((await reopen()).kind).toBe('recovered')
    expect([openPuppet(editor).version, openPuppet(editor).note]).toEqual([CURRENT_VERSION, 'old'])
  })
})

describe('a browser that can keep nothing', () => {
  test('saves all the same, and says what is at risk while the server is away', async () => {
    world.isFull = true
    world.answers = [new RequestError(0, 'away')]
    note('a')
    await pass(1000)
    expect(state()).toEqual({ kind: 'offline', isKept: false })
    await pass(3000)
    expect((world.stored.puppet as Puppet).note).toBe('a')
  })
})

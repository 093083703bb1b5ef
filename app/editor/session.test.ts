import { afterEach, expect, test, vi } from 'vitest'
import { quietEditor } from '../test/quietEditor'
import { detailsKey, toggleFolded, useSession } from './session'

afterEach(() => vi.unstubAllGlobals())

test('groups of details stay folded in the next editor, rows of a puppet do not', () => {
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => kept.set(k, v) })
  const { editor } = quietEditor()
  toggleFolded(editor, detailsKey('canvas'))
  toggleFolded(editor, 'part-7')
  const next = useSession.of(quietEditor().editor).getState().folded
  expect([...next]).toEqual([detailsKey('canvas')])
  toggleFolded(editor, detailsKey('canvas'))
  expect(useSession.of(quietEditor().editor).getState().folded.size).toBe(0)
})

test('what cannot be read in the browser is as if nothing had been kept', () => {
  vi.stubGlobal('localStorage', { getItem: () => '{broken' })
  expect(useSession.of(quietEditor().editor).getState().folded.size).toBe(0)
})

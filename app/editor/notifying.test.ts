import { expect, test, vi } from 'vitest'
import type { Notify } from './editor'
import { waitingNotes } from './notifying'

function listening() {
  const said: unknown[][] = []
  const say = (kind: string) =>
    vi.fn((...what: unknown[]) => {
      said.push([kind, ...what])
      return 0
    })
  const shows = Object.assign(say('plain'), {
    error: say('error'),
    warning: say('warning'),
    success: say('success'),
    loading: say('loading'),
    dismiss: say('dismiss'),
  })
  return { said, shows: shows as unknown as Notify }
}

test('what is said before anything shows notes comes when it does, in order', () => {
  const { notify, showWith } = waitingNotes()
  const note = notify.loading('Working…')
  notify.error('No.', { id: 'own', duration: 5 })
  notify.dismiss(note)
  const { said, shows } = listening()
  showWith(shows)
  expect(said).toEqual([
    ['loading', 'Working…', { id: note }],
    ['error', 'No.', { id: 'own', duration: 5 }],
    ['dismiss', note],
  ])
})

test('afterwards it comes at once, and each note has an id of its own', () => {
  const { notify, showWith } = waitingNotes()
  const { said, shows } = listening()
  showWith(shows)
  const [a, b] = [notify('One'), notify.success('Two')]
  expect(a).not.toBe(b)
  expect(said).toEqual([
    ['plain', 'One', { id: a }],
    ['success', 'Two', { id: b }],
  ])
})

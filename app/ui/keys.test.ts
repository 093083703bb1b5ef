import { describe, expect, test } from 'vitest'
import { isByPlace, keysShown, listened, printsNothingKnown } from './keys'

describe('keys', () => {
  test('are read as each system prints them', () => {
    expect(keysShown('Ctrl Shift Z', false)).toBe('Ctrl Shift Z')
    expect(keysShown('Ctrl Shift Z', true)).toBe('Cmd Shift Z')
    expect(keysShown('Alt-click', true)).toBe('Option-click')
  })

  test('signs are listened to by what is printed', () => {
    expect(listened('equal, plus, shift+plus')).toBe('=,+,shift&+')
    expect(listened('mod+shift+z, mod+y')).toBe('mod&shift&z,mod&y')
    expect(listened('shift+question')).toBe('shift&?')
  })

  test('digits are meant by their place, letters by their print', () => {
    expect(['1', 'shift+3', '0'].map(isByPlace)).toEqual([true, true, true])
    expect(['f2', 'shift+f2', 'mod+z', 'v'].map(isByPlace)).toEqual([false, false, false, false])
  })

  test('what prints in another alphabet is told by its place', () => {
    expect(['z', '?', 'Enter', 'я', 'ζ'].map((key) => printsNothingKnown({ key }))).toEqual([false, false, false, true, true])
  })
})

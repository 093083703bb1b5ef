import { describe, expect, test } from 'vitest'
import { isByPlace, keysShown, listened, pressedKeys, printsNothingKnown, shownKeys } from './keys'

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

  test('the first way is the one that people read', () => {
    expect(['mod+shift+z, mod+y', 'plus, equal', 'minus', 'question', 'f2', 'shift+3', 'delete, backspace', ''].map(shownKeys)).toEqual([
      'Ctrl Shift Z',
      '+',
      '−',
      '?',
      'F2',
      'Shift 3',
      'Delete',
      '',
    ])
  })
})

describe('a press', () => {
  const press = (key: string, code: string, held: 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey' | null = null) =>
    pressedKeys({ key, code, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...(held && { [held]: true }) })
  const keys = (...args: Parameters<typeof press>): string | undefined => {
    const pressed = press(...args)
    return pressed.kind === 'keys' ? pressed.keys : pressed.kind
  }

  test('is written as tables write it', () => {
    expect(keys('b', 'KeyB')).toBe('b')
    expect(keys('B', 'KeyB', 'shiftKey')).toBe('shift+b')
    expect(keys('z', 'KeyY', 'ctrlKey')).toBe('mod+z')
    expect(keys('z', 'KeyZ', 'metaKey')).toBe('mod+z')
    expect(keys('F4', 'F4')).toBe('f4')
    expect(keys('!', 'Digit1', 'shiftKey')).toBe('shift+1')
  })

  test('of a sign counts with and without Shift, as keyboards have it', () => {
    expect(keys('+', 'BracketRight')).toBe('plus, shift+plus')
    expect(keys('?', 'Slash', 'shiftKey')).toBe('question, shift+question')
  })

  test('in another alphabet is told by its place', () => {
    expect(keys('я', 'KeyZ', 'ctrlKey')).toBe('mod+z')
  })

  test('of keys that mean something everywhere is refused', () => {
    for (const key of ['Tab', ' ', 'ArrowUp', '[', ';', '#']) expect(keys(key, '')).toBe('refused')
    expect(keys('a', 'KeyA', 'altKey')).toBe('refused')
    expect(keys('Shift', 'ShiftLeft', 'shiftKey')).toBe('held')
  })
})

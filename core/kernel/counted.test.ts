import { expect, test } from 'vitest'
import { counted, figure, listed, listedUpTo, pluralOf } from './counted'

test('numbers of things are written with their plural', () => {
  expect([0, 1, 2, 12_400].map((n) => counted(n, 'stop'))).toEqual(['0 stops', '1 stop', '2 stops', '12,400 stops'])
  expect(counted(2, 'piece of a foot', 'pieces of feet')).toBe('2 pieces of feet')
  expect([pluralOf(1, 'point'), pluralOf(3, 'point')]).toEqual(['point', 'points'])
  expect(figure(1_234_567)).toBe('1,234,567')
})

test('lists end in “and”, long ones say how many more there are', () => {
  expect([[], ['A'], ['A', 'B'], ['A', 'B', 'C']].map(listed)).toEqual(['', 'A', 'A and B', 'A, B and C'])
  expect(listedUpTo(['A', 'B', 'C', 'D', 'E'], 3)).toBe('A, B, C and 2 more')
  expect(listedUpTo(['A', 'B', 'C'], 3)).toBe('A, B and C')
})

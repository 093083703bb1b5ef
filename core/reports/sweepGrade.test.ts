import { describe, expect, test } from 'vitest'
import { decidingFault, faultSaid, worstFaults } from './sweepGrade'

const none = { holes: 0, corners: 0, doubled: 0 }
/** Pictures of a joint of 25 px at two pixels a px, with lines of 4 px of the pictures. */
const scale = { scale: 2, line: 4, radius: 25, drawn: 0 }

describe('what faults come to', () => {
  test('is the largest at one angle, not their sum', () => {
    const angles = Array.from({ length: 37 }, (_, i) => ({ ...none, angle: 5 * i - 90, holes: i === 30 ? 400 : 3 }))
    const [holes] = worstFaults(angles, scale)
    expect(holes).toMatchObject({ kind: 'holes', angle: 60, across: 11.3, grade: 'broken' })
    expect(holes!.share).toBeCloseTo(0.226)
  })

  test('many small ones are as good as none', () => {
    const angles = Array.from({ length: 37 }, (_, i) => ({ angle: 5 * i - 90, holes: 2, corners: 2, doubled: 5 }))
    expect(worstFaults(angles, scale).map((f) => f.grade)).toEqual(['good', 'good', 'good'])
  })

  test('background and corners break a joint; a line too many is worth a look', () => {
    const graded = (faults: Partial<typeof none>) => decidingFault(worstFaults([{ ...none, angle: 10, ...faults }], scale))
    expect(graded({ corners: 10 })).toMatchObject({ kind: 'corners', across: 5, grade: 'look' })
    expect(graded({ corners: 24 })).toMatchObject({ across: 12, grade: 'broken' })
    expect(graded({ doubled: 400 })).toMatchObject({ kind: 'doubled', across: 50, grade: 'look' })
    expect(graded({ doubled: 400, corners: 24 }).kind).toBe('corners')
    expect(graded({}).grade).toBe('good')
  })

  test('a line that is there at rest is drawn so', () => {
    const cuff = worstFaults([{ ...none, angle: 20, doubled: 420 }], { ...scale, drawn: 410 })
    expect(cuff.find((f) => f.kind === 'doubled')).toMatchObject({ across: 1.3, grade: 'good' })
  })

  test('is said in one sentence', () => {
    const [holes] = worstFaults([{ ...none, angle: -72.4, holes: 400 }], scale)
    expect(faultSaid(holes!)).toBe('opens 11.3 px (23% of its circle) at -72°')
  })
})

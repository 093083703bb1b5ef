/**
 * How the Dockhand's sheet is cut: for each view where its joints are, and what a lasso goes around for each part.
 * Written in the units of sheet.svg, from the spot on which the figure stands; 2.3 px each, y downwards.
 */
import { offsetSelection } from '@marionette/core/artwork/selection'
import { areaOf, combine, type Area } from '@marionette/core/maths/geometry/booleans'
import { mapPath, polygonPath } from '@marionette/core/maths/geometry/path'
import type { Path } from '@marionette/core/puppet/schema'
import { nth, sure } from '@marionette/core/kernel/sure'

export const UNIT = 2.3
export type Spot = readonly [number, number]

export interface Limb {
  /** Shoulder, elbow and wrist of an arm; hip, knee and ankle of a leg; and where it ends. */
  readonly joints: readonly [Spot, Spot, Spot]
  readonly end: Spot
  /** Half of its breadth at the upper two joints, and at the third. */
  readonly half: readonly [number, number, number]
  /** How large a hand is, beside that of the front view. */
  readonly size?: number
}

export interface ViewCuts {
  readonly name: string
  /** Where the figure stands on the sheet, px. */
  readonly stands: Spot
  readonly neck: Spot
  readonly torso: Area
  readonly head: Area
  /** Limbs that are drawn in this view; right is the near side. */
  readonly arms: Readonly<Partial<Record<'left' | 'right', Limb>>>
  readonly legs: Readonly<Partial<Record<'left' | 'right', Limb>>>
}

type Step = Spot | readonly [number, number, number, number, number, number]

/** A closed outline of straight steps [x, y] and curves [handle, handle, end]. */
function outline(...steps: readonly Step[]): Path {
  const ends = steps.map((s) => s.slice(-2) as unknown as Spot)
  const handles = ends.flatMap(([x, y], i) => {
    const [into, next] = [nth(steps, i), nth(steps, (i + 1) % steps.length)]
    return [...(into.length === 6 ? [into[2] - x, into[3] - y] : [0, 0]), ...(next.length === 6 ? [next[0] - x, next[1] - y] : [0, 0])]
  })
  return { closed: true, ids: ends.map((_, i) => i), anchors: ends.flat(), handles }
}

const area = (...paths: readonly Path[]): Area => ({ paths, rule: 'nonzero' })
const without = (a: Area, ...others: readonly Area[]): Area => others.reduce((left, b) => area(...combine(left, b, 'subtract')), a)
const together = (a: Area, ...others: readonly Area[]): Area => others.reduce((sum, b) => area(...combine(sum, b, 'unite')), a)

const CIRCLE = 32
const disc = ([x, y]: Spot, r: number): Area =>
  area(
    polygonPath(
      Array.from({ length: CIRCLE }, (_, i) => [
        x + r * Math.cos((2 * Math.PI * i) / CIRCLE),
        y + r * Math.sin((2 * Math.PI * i) / CIRCLE),
      ]).flat(),
    ),
  )

/** A straight piece from one spot to another, of a half breadth at each, a little longer at its ends where that is asked. */
function band([ax, ay]: Spot, [bx, by]: Spot, halfA: number, halfB: number, before = 0, after = 0): Area {
  const long = Math.hypot(bx - ax, by - ay)
  const [ux, uy] = [(bx - ax) / long, (by - ay) / long]
  const [px, py, qx, qy] = [ax - ux * before, ay - uy * before, bx + ux * after, by + uy * after]
  return area(
    polygonPath([
      px - uy * halfA,
      py + ux * halfA,
      px + uy * halfA,
      py - ux * halfA,
      qx + uy * halfB,
      qy - ux * halfB,
      qx - uy * halfB,
      qy + ux * halfB,
    ]),
  )
}

/** Half the breadth of a cuff. */
const CUFF = 5.4

/** What of a part the arms and the head hide; null where they are nowhere near it. */
export function hiddenOf(part: Area, cuts: ViewCuts): Area | null {
  const hidden = without(part, seenOf(part, cuts))
  return areaOf(hidden) > 1 ? hidden : null
}

/** The two ends of a line across a limb. */
function crosswise([ax, ay]: Spot, [bx, by]: Spot, half: number): readonly [Spot, Spot] {
  const long = Math.hypot(bx - ax, by - ay)
  const [ux, uy] = [((bx - ax) / long) * half, ((by - ay) / long) * half]
  return [
    [bx - uy, by + ux],
    [bx + uy, by - ux],
  ]
}

/** A hand that hangs from a wrist towards its end. */
function handArea([ax, ay]: Spot, [bx, by]: Spot, size: number): Area {
  const long = Math.hypot(bx - ax, by - ay)
  const [ux, uy] = [((bx - ax) / long) * size, ((by - ay) / long) * size]
  const hand = outline([-11.5, -14], [-13.5, 4, -11.5, 14.5, 0, 15.6], [11.5, 14.5, 13.5, 4, 11.5, -14])
  return area(mapPath(hand, [uy, -ux, ux, uy, bx, by]))
}

/** What a lasso goes around for the three pieces of an arm, the cuff being part of the second. */
export function armAreas({ joints: [shoulder, elbow, wrist], end, half, size = 1 }: Limb): readonly [Area, Area, Area] {
  const upper = together(disc(shoulder, half[0]), band(shoulder, elbow, half[0], half[1]))
  const across = crosswise(elbow, wrist, half[2])
  const cuff = together(band(across[0], across[1], CUFF, CUFF), disc(across[0], CUFF), disc(across[1], CUFF))
  const fore = without(together(band(elbow, wrist, half[1], half[1], 1), cuff), upper)
  return [upper, fore, without(handArea(wrist, end, size), cuff)]
}

/** How far the cuff of a boot lies above the ankle, and how far it is bent upwards in its middle. */
const CUFF_ABOVE = 2.1
const CUFF_BEND = 1.6

/** What a lasso goes around for the three pieces of a leg, below the hem of the jersey. */
export function legAreas({ joints: [hip, knee, ankle], end, half }: Limb, torso: Area): readonly [Area, Area, Area] {
  const thigh = without(band(hip, knee, half[0], half[1], 10), moved(torso, 0, 2))
  // The cuff of a boot is bent upwards; the trouser ends above it.
  const top = ankle[1] - CUFF_ABOVE
  const boot: Area = area(
    outline(
      [ankle[0] - 19, top],
      [ankle[0] - 15, top],
      [ankle[0] - 13, top - CUFF_BEND, ankle[0] + 13, top - CUFF_BEND, ankle[0] + 15, top],
      [ankle[0] + 19, top],
      [end[0] + 36, ankle[1]],
      [end[0] + 36, 8],
      [end[0] - 36, 8],
      [end[0] - 36, ankle[1]],
    ),
  )
  return [thigh, band(knee, ankle, half[1], half[2], 0, -CUFF_ABOVE - CUFF_BEND), boot]
}

/** How far from something that is painted over a part its own paint is clean. */
const CLEAR = 1

const moved = (a: Area, dx: number, dy: number): Area => ({ ...a, paths: a.paths.map((p) => mapPath(p, [1, 0, 0, 1, dx, dy])) })

/** What of a part is seen beside the arms and the head that are painted over it. */
export const seenOf = (part: Area, { head, arms }: ViewCuts): Area =>
  without(part, ...[head, ...Object.values(arms).flatMap((arm) => [...armAreas(arm)])].map((a) => sure(offsetSelection(a, CLEAR))))

const jersey = (l: number, shoulderL: number, shoulderR: number, r: number, collar: readonly [number, number, number, number]): Area =>
  together(
    area(outline([shoulderL, -160], [shoulderL - 2, -182, shoulderR + 2, -182, shoulderR, -160], [r, -94], [r, -81.5, l, -81.5, l, -94])),
    area(
      outline(
        [collar[0], -174],
        [collar[1], -184.5],
        [collar[2], -184.5],
        [collar[3], -174],
        [collar[3] - 10, -163, collar[0] + 10, -163, collar[0], -174],
      ),
    ),
  )

/** All above a line of the face, and the face below it. */
const headOf = (face: Path, l: number, r: number): Area => together(area(face), area(outline([l, -310], [r, -310], [r, -205], [l, -205])))

export const VIEW_CUTS: Readonly<Record<'front' | 'three-quarter' | 'side', ViewCuts>> = {
  front: {
    name: 'Front',
    stands: [260, 712],
    neck: [0, -177],
    torso: jersey(-47.6, -42.5, 42.5, 47.6, [-26.5, -24.5, 24.5, 26.5]),
    head: headOf(outline([-47.5, -230], [-52.5, -161.5, 52.5, -161.5, 47.5, -230]), -60, 60),
    arms: {
      right: {
        joints: [
          [-38, -159],
          [-58, -132],
          [-78, -107.5],
        ],
        end: [-84, -100],
        half: [12.8, 13, 11.8],
      },
    },
    legs: {
      right: {
        joints: [
          [-20, -92],
          [-20, -58],
          [-20, -28],
        ],
        end: [-20, 0],
        half: [17.5, 16.8, 16],
      },
    },
  },
  'three-quarter': {
    name: 'Three-quarter',
    stands: [760, 712],
    neck: [2, -177],
    torso: jersey(-45.6, -40.5, 39.5, 43.6, [-20.5, -19.5, 27.5, 30.5]),
    head: headOf(outline([-44.5, -230], [-49.5, -161.5, 53.5, -161.5, 49.5, -228]), -56, 58),
    arms: {
      right: {
        joints: [
          [-36, -159],
          [-53, -130],
          [-69.5, -104],
        ],
        end: [-75, -96],
        half: [13.3, 13.5, 12.2],
      },
      left: {
        joints: [
          [36, -158],
          [52, -132],
          [68.5, -107.5],
        ],
        end: [74, -100],
        half: [12.3, 12.5, 10.2],
        size: 0.94,
      },
    },
    legs: {
      right: {
        joints: [
          [-17, -92],
          [-18, -58],
          [-18, -28],
        ],
        end: [-16, 0],
        half: [18, 16.5, 15.8],
      },
      left: {
        joints: [
          [23, -92],
          [24, -58],
          [24.5, -30],
        ],
        end: [27, -4],
        half: [16, 14.6, 13.5],
      },
    },
  },
  side: {
    name: 'Side',
    stands: [1240, 712],
    neck: [2, -176],
    torso: jersey(-38.6, -33.5, 30.5, 34.6, [-22.5, -18.5, 22.5, 25.5]),
    head: headOf(
      outline(
        [-40.5, -232],
        [-44.5, -171.5, -12, -173.5, 10, -174.5],
        [30, -175.5, 40.5, -184, 40.5, -203.5],
        [48.5, -202.5, 54, -207, 51.8, -213],
        [49, -219, 43.5, -222, 41.5, -232],
      ),
      -52,
      60,
    ),
    arms: {
      right: {
        joints: [
          [-4, -158],
          [-5, -128],
          [-1.6, -96],
        ],
        end: [-1, -90.5],
        half: [13.8, 14, 11],
        size: 0.94,
      },
    },
    legs: {
      right: {
        joints: [
          [-1, -92],
          [-1, -58],
          [-1, -28],
        ],
        end: [-1, 0],
        half: [18.5, 18, 17.5],
      },
    },
  },
}

/** An area of the sheet's units on the canvas, the figure standing at a spot. */
export const onCanvas = (drawn: Area, x: number, y: number): Area => ({
  ...drawn,
  paths: drawn.paths.map((p) => mapPath(p, [UNIT, 0, 0, UNIT, x, y])),
})

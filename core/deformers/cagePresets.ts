/**
 * Forms of cages that are ready to be used: each says where a spot of the box goes. Places count from the middle of the
 * box, -1 to 1 each way (y down), moves in halves of its breadth and height.
 */
import type { Cage, CagePreset } from './records'

type Form = (x: number, y: number) => readonly [number, number]

interface BuiltIn {
  readonly name: string
  readonly columns: number
  readonly rows: number
  readonly move: Form
}

/** A turn of a spot about the middle, degrees. */
const turned = (x: number, y: number, degrees: number): readonly [number, number] => {
  const a = (degrees * Math.PI) / 180
  return [Math.cos(a) * x + Math.sin(a) * y - x, -Math.sin(a) * x + Math.cos(a) * y - y]
}

const BUILT_IN: readonly BuiltIn[] = [
  // What stands on the ground stays on it: the lower rim does not move.
  { name: 'Squash', columns: 2, rows: 3, move: (x, y) => [0.28 * x * (1 - 0.3 * y * y), 0.25 * (1 - y)] },
  { name: 'Stretch', columns: 2, rows: 3, move: (x, y) => [-0.18 * x * (1 - 0.3 * y * y), -0.25 * (1 - y)] },
  { name: 'Lean', columns: 2, rows: 2, move: (_x, y) => [0.25 * (1 - y), 0] },
  { name: 'Bow', columns: 2, rows: 4, move: (_x, y) => [0.12 * (1 - y) ** 2, 0.04 * (1 - y) ** 2] },
  {
    name: 'Swell',
    columns: 4,
    rows: 4,
    move: (x, y) => [0.35 * x * (1 - x * x) + 0.2 * x * (1 - y * y), 0.35 * y * (1 - y * y) + 0.2 * y * (1 - x * x)],
  },
  { name: 'Pinch', columns: 4, rows: 4, move: (x, y) => [-0.45 * x * (1 - y * y), 0] },
  { name: 'Twist', columns: 4, rows: 6, move: (x, y) => turned(x, y, 35 * y) },
  { name: 'Wave', columns: 2, rows: 8, move: (_x, y) => [0.2 * Math.sin(Math.PI * y), 0] },
  { name: 'Ripple', columns: 8, rows: 2, move: (x) => [0, 0.16 * Math.sin(2 * Math.PI * x)] },
  { name: 'Taper up', columns: 2, rows: 2, move: (x, y) => [-0.25 * x * (1 - y), 0] },
  { name: 'Taper down', columns: 2, rows: 2, move: (x, y) => [-0.25 * x * (1 + y), 0] },
  { name: 'Hump', columns: 6, rows: 2, move: (x) => [0, -0.35 * (1 - x * x)] },
  { name: 'Sag', columns: 6, rows: 2, move: (x) => [0, 0.35 * (1 - x * x)] },
  { name: 'Fan', columns: 4, rows: 4, move: (x, y) => [0.25 * x * (1 - y), 0.12 * x * x * (1 - y)] },
]

/** All forms that ship with the program. */
export const CAGE_PRESETS: readonly CagePreset[] = BUILT_IN.map(({ name, columns, rows, move }) => ({
  name,
  columns,
  rows,
  form: Array.from({ length: (columns + 1) * (rows + 1) }, (_, k) => {
    const x = (2 * (k % (columns + 1))) / columns - 1
    const y = (2 * Math.floor(k / (columns + 1))) / rows - 1
    return move(x, y)
  }).flatMap(([x, y]) => [x / 2, y / 2]),
}))

/** A cage in the form of a preset over the same box. */
export const withPreset = (cage: Cage, { columns, rows, form }: CagePreset): Cage => ({
  ...cage,
  columns,
  rows,
  form: form.map((v, k) => v * (k % 2 === 0 ? cage.box.width : cage.box.height)),
})

/**
 * The form of a cage as a preset, with what its handles are posed by.
 *
 * @param posed [2n] moves of the lattice points, px along its axes
 */
export const presetOf = ({ columns, rows, form, box }: Cage, name: string, posed: readonly number[] = []): CagePreset => ({
  name,
  columns,
  rows,
  form: form.map((v, k) => (v + (posed[k] ?? 0)) / Math.max(k % 2 === 0 ? box.width : box.height, 1e-9)),
})

/** A cage over another box: its form grows with the box. */
export const inBox = (cage: Cage, box: Cage['box']): Cage => ({
  ...cage,
  box,
  form: cage.form.map((v, k) => {
    const [before, after] = k % 2 === 0 ? [cage.box.width, box.width] : [cage.box.height, box.height]
    return before > 0 ? (v * after) / before : v
  }),
})

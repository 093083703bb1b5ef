/**
 * Responses at work. Each kind finds out which of its stops count, and how much, and adds what was recorded there to the
 * answers: only stops that count cost anything.
 */
import type { Response } from './records'
import { NaturalField } from '../maths/solve/natural'
import { rise, slopesAlong } from '../maths/solve/ruler'
import type { RigInput } from './inputs'
import type { Recorded } from './recorded'
import type { CompiledResponse } from './compiled'
import type { Responding as Frame } from './frame'

/** What all kinds have in common. */
export interface ReadyResponse {
  readonly source: Response
  readonly inputs: readonly RigInput[]
  /** In the order of the stops. */
  readonly recorded: readonly Recorded[]
  /** Its number among all answerers, by which a frame remembers which stop was chosen last. */
  readonly number: number
  /** Decides who chooses: the highest does. */
  readonly rank: number
  readonly isLate: boolean
  readonly movesBones: boolean
}

/** Margin within which a choice stays as it was, as a share of the way between two stops. */
const STICKY = 0.04

/** Chooses for channels, where nothing of a higher rank has done so. */
class Choices {
  private readonly slots: Int32Array
  private readonly to: Float64Array

  constructor(
    choices: ReadonlyMap<number, number>,
    private readonly rank: number,
  ) {
    this.slots = Int32Array.from(choices.keys())
    this.to = Float64Array.from(choices.values())
  }

  choose({ values: answers, ranks }: Frame): void {
    for (let k = 0; k < this.slots.length; k++) {
      const slot = this.slots[k]!
      if (ranks[slot]! >= this.rank) continue
      ranks[slot] = this.rank
      answers[slot] = this.to[k]!
    }
  }
}

/** Places that any of some stops move, in order. */
const placesOf = (recorded: readonly Recorded[], of: 'sums' | 'factors'): Int32Array =>
  Int32Array.from(new Set(recorded.flatMap((r) => [...r[of].keys()]))).sort()

const EMPTY: Recorded = { sums: new Map(), factors: new Map(), choices: new Map() }

/** A stretch between two knots of a ruler: places that move in it, with values and slopes at both ends. */
interface Stretch {
  readonly places: Int32Array
  /** Places before this number are added to, those from it on multiplied. */
  readonly sums: number
  readonly from: Float64Array
  readonly to: Float64Array
  readonly slopeFrom: Float64Array
  readonly slopeTo: Float64Array
}

/** One input, stops along it, rest among them. */
export class Ruler implements CompiledResponse {
  readonly id: string
  readonly isLate: boolean
  readonly movesBones: boolean
  private readonly input: RigInput
  private readonly knots: Float64Array
  private readonly restKnot: number
  private readonly stretches: readonly Stretch[]
  private readonly choices: readonly Choices[]
  private readonly hasChoices: boolean
  /** Where the input is: as a share of the way between two knots, and the way itself. */
  private readonly way = new Float64Array(2)

  constructor(private readonly own: ReadyResponse) {
    const { source, inputs, recorded } = own
    this.id = source.id
    this.isLate = own.isLate
    this.movesBones = own.movesBones
    this.input = inputs[0]!
    const stops = [
      { at: this.input.rest, recorded: EMPTY },
      ...source.stops.map((s, k) => ({ at: s.at[0]!, recorded: recorded[k]! })).filter((s) => s.at !== this.input.rest),
    ].sort((a, b) => a.at - b.at)
    this.knots = Float64Array.from(stops, (s) => s.at)
    this.restKnot = stops.findIndex((s) => s.recorded === EMPTY)
    this.stretches = stretchesOf(
      source,
      this.knots,
      stops.map((s) => s.recorded),
    )
    this.choices = stops.map((s) => new Choices(s.recorded.choices, own.rank))
    this.hasChoices = recorded.some((r) => r.choices.size > 0)
  }

  act(frame: Frame): void {
    const { knots, restKnot } = this
    this.input.read(frame, 0)
    const x = frame.inputValues[0]!
    const last = knots.length - 1
    if (last === 0) return
    if (x === knots[restKnot]!) {
      if (this.hasChoices) frame.memory[this.own.number] = restKnot
      return
    }
    let k = 0
    while (k < last - 1 && x >= knots[k + 1]!) k++
    // Numbers that are handed on to functions would be objects of their own.
    const { way } = this
    way[1] = knots[k + 1]! - knots[k]!
    way[0] = (x - knots[k]!) / way[1]
    if (this.hasChoices) this.choices[this.chosen(frame, k)]!.choose(frame)
    if (way[0] < 0 || way[0] > 1) this.beyond(frame, k)
    else this.between(frame, this.stretches[k]!)
  }

  /** The knot whose choices count: the nearer one, staying with the last while there is little between them. */
  private chosen({ memory }: Frame, k: number): number {
    const { number, source } = this.own
    const share = this.way[0]!
    // Rest is the far side of a switch wherever it stands: a choice is made at `switchAt` of the way away from rest.
    const below = Number(k < this.restKnot)
    const at = below + (1 - 2 * below) * source.switchAt
    const before = memory[number]!
    const stays = (before === k || before === k + 1) && Math.abs(share - at) <= STICKY
    const chosen = stays ? before : share < at ? k : k + 1
    memory[number] = chosen
    return chosen
  }

  private between({ values: answers }: Frame, s: Stretch): void {
    const { source } = this.own
    const { way } = this
    const { places, sums, from, to, slopeFrom, slopeTo } = s
    if (source.between === 'smooth') {
      const t = way[0]!
      const step = way[1]!
      const a = t * t * (2 * t - 3) + 1
      const m = step * t * (t - 1) * (t - 1)
      const n = step * t * t * (t - 1)
      for (let i = 0; i < sums; i++) answers[places[i]!]! += a * from[i]! + (1 - a) * to[i]! + m * slopeFrom[i]! + n * slopeTo[i]!
      for (let i = sums; i < places.length; i++)
        answers[places[i]!]! *= 1 + a * from[i]! + (1 - a) * to[i]! + m * slopeFrom[i]! + n * slopeTo[i]!
      return
    }
    if (source.between === 'curve') rise(source.curve, way, 0)
    const b = way[0]!
    for (let i = 0; i < sums; i++) answers[places[i]!]! += (1 - b) * from[i]! + b * to[i]!
    for (let i = sums; i < places.length; i++) answers[places[i]!]! *= 1 + (1 - b) * from[i]! + b * to[i]!
  }

  /** Past the last stop: as there, or on at its slope. Past rest there is nothing that was recorded. */
  private beyond({ values: answers }: Frame, k: number): void {
    const { restKnot, way } = this
    const share = way[0]!
    const end = share < 0 ? k : k + 1
    if (end === restKnot) return
    const { places, sums, from, to, slopeFrom, slopeTo } = this.stretches[k]!
    const values = share < 0 ? from : to
    const slopes = share < 0 ? slopeFrom : slopeTo
    const far = this.own.source.beyond === 'hold' ? 0 : (share < 0 ? share : share - 1) * way[1]!
    for (let i = 0; i < sums; i++) answers[places[i]!]! += values[i]! + far * slopes[i]!
    for (let i = sums; i < places.length; i++) answers[places[i]!]! *= 1 + values[i]! + far * slopes[i]!
  }
}

function stretchesOf({ between, overshoots }: Response, knots: Float64Array, recorded: readonly Recorded[]): Stretch[] {
  const xs = [...knots]
  const columns = (['sums', 'factors'] as const).flatMap((of) =>
    [...placesOf(recorded, of)].map((place) => {
      const values = recorded.map((r) => r[of].get(place) ?? 0)
      const chord = (i: number): number => (values[i + 1]! - values[i]!) / (xs[i + 1]! - xs[i]!)
      const slopes = between === 'smooth' ? slopesAlong(xs, values, overshoots) : xs.map((_, i) => (i === 0 ? chord(0) : chord(i - 1)))
      return { place, of, values, slopes }
    }),
  )
  return xs.slice(1).map((_, k): Stretch => {
    const moved = columns.filter(({ values, slopes }) => [values, slopes].some((v) => v[k] !== 0 || v[k + 1] !== 0))
    const column = (pick: (c: (typeof moved)[number]) => number): Float64Array => Float64Array.from(moved, pick)
    return {
      places: Int32Array.from(moved, (c) => c.place),
      sums: moved.filter((c) => c.of === 'sums').length,
      from: column((c) => c.values[k]!),
      to: column((c) => c.values[k + 1]!),
      slopeFrom: column((c) => c.slopes[k]!),
      slopeTo: column((c) => c.slopes[k + 1]!),
    }
  })
}

/** Two inputs, stops in the plane, rest among them. */
export class Pad implements CompiledResponse {
  readonly id: string
  readonly isLate: boolean
  readonly movesBones: boolean
  private readonly field: NaturalField
  private readonly places: Int32Array
  private readonly sums: number
  /** [sites][places] values, and slopes along both ways. */
  private readonly values: readonly Float64Array[]
  private readonly slopeX: readonly Float64Array[]
  private readonly slopeY: readonly Float64Array[]
  private readonly product: Float64Array
  private readonly choices: readonly Choices[]
  private readonly hasChoices: boolean
  /** [sites] what makes them be chosen from farther off, or from nearer by; and how near the spot is by that. */
  private readonly weights: Float64Array
  private readonly powers: Float64Array
  /** What makes both ways as long as each other for telling what is near. */
  private readonly unit: readonly [number, number]

  constructor(private readonly own: ReadyResponse) {
    const { source, inputs, recorded } = own
    this.id = source.id
    this.isLate = own.isLate
    this.movesBones = own.movesBones
    const rest = inputs.map((i) => i.rest)
    const apart = source.stops.filter((s) => s.at[0] !== rest[0] || s.at[1] !== rest[1])
    const all = [{ at: rest, recorded: EMPTY }, ...apart.map((s) => ({ at: s.at, recorded: recorded[source.stops.indexOf(s)]! }))]
    const extent = (axis: number): number => Math.max(...all.map((s) => Math.abs(s.at[axis]! - rest[axis]!))) || 1
    this.unit = [1 / extent(0), 1 / extent(1)]
    this.field = new NaturalField(Float64Array.from(all.flatMap((s) => s.at.map((v, axis) => v * this.unit[axis]!))))
    const lists = all.map((s) => s.recorded)
    const [sums, factors] = [placesOf(lists, 'sums'), placesOf(lists, 'factors')]
    this.places = Int32Array.from([...sums, ...factors])
    this.sums = sums.length
    const valueOf = (r: Recorded, i: number): number => (i < sums.length ? r.sums : r.factors).get(this.places[i]!) ?? 0
    this.values = lists.map((r) => Float64Array.from(this.places, (_, i) => valueOf(r, i)))
    this.slopeX = lists.map(() => new Float64Array(this.places.length))
    this.slopeY = lists.map(() => new Float64Array(this.places.length))
    this.product = new Float64Array(factors.length)
    this.makeSlopes()
    const { sites, count } = this.field
    this.weights = Float64Array.from({ length: count }, (_, k) => {
      const [dx, dy] = [sites[2 * k]! - sites[0]!, sites[2 * k + 1]! - sites[1]!]
      return (1 - 2 * source.switchAt) * (dx * dx + dy * dy)
    })
    this.powers = new Float64Array(count)
    this.choices = lists.map((r) => new Choices(r.choices, own.rank))
    this.hasChoices = recorded.some((r) => r.choices.size > 0)
  }

  private makeSlopes(): void {
    const { field, values, places } = this
    const column = new Float64Array(field.count)
    const slopes = new Float64Array(2 * field.count)
    for (let i = 0; i < places.length; i++) {
      for (let k = 0; k < field.count; k++) column[k] = values[k]![i]!
      if (this.own.source.between === 'smooth') field.slopes(column, this.own.source.overshoots, slopes)
      for (let k = 0; k < field.count; k++) {
        this.slopeX[k]![i] = slopes[2 * k]!
        this.slopeY[k]![i] = slopes[2 * k + 1]!
      }
    }
  }

  act(frame: Frame): void {
    const { own, field, places, sums, values, slopeX, slopeY, product } = this
    const { values: answers } = frame
    own.inputs[0]!.read(frame, 0)
    own.inputs[1]!.read(frame, 1)
    const x = frame.inputValues[0]!
    const y = frame.inputValues[1]!
    if (field.count === 1 || (x === own.inputs[0]!.rest && y === own.inputs[1]!.rest)) {
      if (this.hasChoices) frame.memory[own.number] = 0
      return
    }
    field.spot[0] = x * this.unit[0]
    field.spot[1] = y * this.unit[1]
    field.lookAtSpot()
    if (this.hasChoices) this.choices[this.chosen(frame)]!.choose(frame)
    product.fill(0)
    const isSmooth = own.source.between === 'smooth'
    for (let n = 0; n < field.nearCount; n++) {
      const k = field.near[n]!
      // Evenly, the coordinates themselves say how much each stop counts.
      const a = isSmooth ? field.value[k]! : field.shares[k]!
      const b = isSmooth ? field.slopeX[k]! : 0
      const c = isSmooth ? field.slopeY[k]! : 0
      const z = values[k]!
      const u = slopeX[k]!
      const v = slopeY[k]!
      for (let i = 0; i < sums; i++) answers[places[i]!]! += a * z[i]! + b * u[i]! + c * v[i]!
      for (let i = sums; i < places.length; i++) product[i - sums]! += a * z[i]! + b * u[i]! + c * v[i]!
    }
    for (let i = sums; i < places.length; i++) answers[places[i]!]! *= 1 + product[i - sums]!
  }

  /**
   * The nearest stop by its power (Aurenhammer 1987): weights put the border between rest and a stop at `switchAt` of the way,
   * wherever other stops are. The last one stays while another is hardly nearer.
   */
  private chosen({ memory }: Frame): number {
    const { weights, powers } = this
    const { sites, spot, count } = this.field
    let best = 0
    for (let k = 0; k < count; k++) {
      const dx = spot[0]! - sites[2 * k]!
      const dy = spot[1]! - sites[2 * k + 1]!
      powers[k] = dx * dx + dy * dy - weights[k]!
      if (powers[k]! < powers[best]!) best = k
    }
    const before = memory[this.own.number]!
    if (before >= 0 && before < count) {
      const dx = sites[2 * before]! - sites[2 * best]!
      const dy = sites[2 * before + 1]! - sites[2 * best + 1]!
      if (powers[before]! - powers[best]! <= 2 * STICKY * (dx * dx + dy * dy)) best = before
    }
    memory[this.own.number] = best
    return best
  }
}

/** A correction: its one recording fades in as all of its inputs go from rest to where it was made. */
export class Correction implements CompiledResponse {
  readonly id: string
  readonly isLate: boolean
  readonly movesBones: boolean
  private readonly stops: readonly {
    readonly at: readonly number[]
    readonly places: Int32Array
    readonly sums: number
    readonly values: Float64Array
    readonly choices: Choices
  }[]
  /** Of all inputs, and of one. */
  private readonly share = new Float64Array(2)

  constructor(private readonly own: ReadyResponse) {
    const { source, recorded } = own
    this.id = source.id
    this.isLate = own.isLate
    this.movesBones = own.movesBones
    this.stops = source.stops.map(({ at }, k) => {
      const r = recorded[k]!
      return {
        at,
        places: Int32Array.from([...r.sums.keys(), ...r.factors.keys()]),
        sums: r.sums.size,
        values: Float64Array.from([...r.sums.values(), ...r.factors.values()]),
        choices: new Choices(r.choices, own.rank),
      }
    })
  }

  act(frame: Frame): void {
    const { values: answers, memory } = frame
    for (let s = 0; s < this.stops.length; s++) {
      const { at, places, sums, values, choices } = this.stops[s]!
      this.findShare(frame, at)
      const share = this.share[0]!
      const isOn = share >= this.own.source.switchAt + (memory[this.own.number] === 1 ? -STICKY : 0)
      memory[this.own.number] = Number(isOn)
      if (isOn) choices.choose(frame)
      if (share === 0) continue
      for (let i = 0; i < sums; i++) answers[places[i]!]! += share * values[i]!
      for (let i = sums; i < places.length; i++) answers[places[i]!]! *= 1 + share * values[i]!
    }
  }

  /** How far the inputs have come towards where a stop was made. */
  private findShare(frame: Frame, at: readonly number[]): void {
    const { inputs, source } = this.own
    const { share } = this
    share[0] = 1
    for (let k = 0; k < inputs.length; k++) {
      const rest = inputs[k]!.rest
      const way = at[k]! - rest
      if (way === 0) continue
      inputs[k]!.read(frame, k)
      share[1] = Math.min(1, Math.max(0, (frame.inputValues[k]! - rest) / way))
      if (source.between === 'smooth') share[1] *= share[1] * (3 - 2 * share[1])
      else if (source.between === 'curve') rise(source.curve, share, 1)
      share[0] = source.fade === 'product' ? share[0] * share[1] : Math.min(share[0], share[1])
    }
  }
}

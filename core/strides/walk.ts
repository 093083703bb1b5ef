/**
 * Walking, step by step: feet that stand keep their place, feet in the air go to where the body will be in the middle of their next stance.
 * So nothing slides, whatever the pace does; what has to be known of the past is where feet stand.
 *
 * A stride runs round its ring once: a leg touches down at its phase, stands for the duty, and is in the air for the rest. The body goes
 * on by length times pace times tempo. A slower pace takes both: shorter strides, and fewer of them, by its root. From standing the first leg
 * lifts at once; to stand again each foot makes the steps that bring it home, and nothing less than a whole step.
 */
import { boneSlot } from '../bones/channels'
import { minimumJerk } from '../maths/solve/smoothstep'
import { groundAt, LEG_SHOWN, LEG_STATE, rollAt, WALK_SHOWN, WALK_STATE, within, wrapped } from './course'
import type { StrideTable } from './table'

const [PHASE, PACE, GRIP, GONE, SHOWN, WALKS, HEIGHT, ASKED, CARRIED] = [0, 1, 2, 3, 4, 5, 6, 7, 8] as const
const [STANDS, FROM, TO, IN_AIR, HAS_STEPPED, GROUND_FROM, GROUND_TO] = [0, 1, 2, 3, 4, 5, 6] as const

/** A foot this near to its home is there, px. */
const HOME = 0.05
/** Fewer strides than this share of the tempo are never made: the last steps do not creep. */
const SLOWEST = 0.7
/** Strides in which legs are taken over from the pose, and given back. */
const TAKEN_IN = 0.25
/** Strides a second, as a share of the tempo, by which the pace follows what is asked for: from standing to walking in one step. */
const FOLLOWS = 2

/** Makes a stride go on by steps of time. */
export class Walk {
  /** The direction of the canvas in which legs walk just now: by the view that is shown. */
  private way: number
  private readonly at: number

  /** @param state numbers of all strides of a rig; its own are gone on from */
  constructor(
    private readonly table: StrideTable,
    private readonly state: Float64Array,
    /** Whether it walks on the spot, wherever else it would go. */
    private readonly isOnSpot = false,
  ) {
    this.way = table.way
    this.at = table.stateAt
  }

  /** Another view is shown, and shows it from another side. */
  face(view: string): void {
    this.way = this.table.ways[view] ?? this.table.way
  }

  /** Asks for the pace that values of channels say, where the pose has put the puppet. */
  ask(values: Float64Array): void {
    this.state[this.at + ASKED] = values[this.table.speed]!
    this.state[this.at + CARRIED] = carriedBy(this.table, values)
  }

  isWalking(): boolean {
    return this.state[this.at + WALKS] !== 0 || this.state[this.at + ASKED] !== 0
  }

  private leg(k: number): number {
    return this.at + WALK_STATE + LEG_STATE * k
  }

  /** Begins at the pace that is asked for: standing, or in the midst of walking, as if it had always walked. */
  begin(): void {
    const { table, state, at } = this
    const [pace, carried] = [state[at + ASKED]!, state[at + CARRIED]!]
    state.fill(0, at, this.leg(table.legs.length))
    state[at + ASKED] = pace
    state[at + CARRIED] = carried
    if (table.ground.length > 0) this.standOnGround()
    if (pace === 0) return
    state[at + PACE] = pace
    state[at + GRIP] = 1
    state[at + WALKS] = 1
    const length = this.strideLength(pace)
    table.legs.forEach((leg, k) => {
      const p = wrapped(-leg.at)
      const o = this.leg(k)
      state[o + HAS_STEPPED] = 1
      state[o + IN_AIR] = Number(p >= table.duty)
      state[o + STANDS] = length * (table.duty / 2 - p)
      state[o + FROM] = state[o + STANDS]!
      state[o + TO] = state[o + STANDS]! + length
      state[o + GROUND_FROM] = this.groundUnder(k, state[o + FROM]!)
      state[o + GROUND_TO] = this.groundUnder(k, state[o + TO]!)
    })
    this.settleHeight(1)
  }

  /** Feet stand on the ground that is drawn, from the beginning on. */
  private standOnGround(): void {
    this.state[this.at + GRIP] = 1
    for (let k = 0; k < this.table.legs.length; k++) this.state[this.leg(k) + GROUND_FROM] = this.groundUnder(k, 0)
    this.settleHeight(1)
  }

  /** Goes on by a step of time, seconds. */
  step(dt: number): void {
    const { table, state, at } = this
    const asked = state[at + ASKED]!
    if (state[at + WALKS] === 0) {
      if (asked === 0) return
      state[at + WALKS] = 1
      state[at + PHASE] = this.nextLift(state[at + PHASE]!)
    }
    const pace = state[at + PACE]!
    const most = FOLLOWS * table.tempo * Math.max(1, Math.abs(asked), Math.abs(pace)) * dt
    const now = pace + Math.min(most, Math.max(-most, asked - pace))
    state[at + PACE] = now
    const turned = table.tempo * cadenceOf(now) * dt
    state[at + PHASE] = state[at + PHASE]! + turned
    const gone = table.length * now * table.tempo * dt
    state[at + GONE] = state[at + GONE]! + gone
    if (table.travels && !this.isOnSpot) state[at + SHOWN] = state[at + SHOWN]! + this.way * gone
    let isHome = asked === 0 && now === 0
    for (let k = 0; k < table.legs.length; k++) isHome = this.stepLeg(k, turned, now) && isHome
    this.settleHeight(Math.min(1, turned * 8))
    this.takeHold(isHome, turned)
  }

  /** Where the next leg is about to lift, from a phase on. */
  private nextLift(phase: number): number {
    const { legs, duty } = this.table
    let least = Infinity
    for (let k = 0; k < legs.length; k++) if (legs[k]!.touches) least = Math.min(least, wrapped(legs[k]!.at + duty - phase))
    return least === Infinity ? phase : phase + least - 1e-9
  }

  /** Whether the foot of a leg is home afterwards. */
  private stepLeg(k: number, turned: number, pace: number): boolean {
    const { table, state, at } = this
    const leg = table.legs[k]!
    if (!leg.touches) return true
    const o = this.leg(k)
    const p = wrapped(state[at + PHASE]! - leg.at)
    const gone = state[at + GONE]!
    const isLifted = p >= table.duty && p - turned < table.duty
    if (state[o + IN_AIR] === 0 && isLifted && (pace !== 0 || Math.abs(state[o + STANDS]! - gone) > HOME)) {
      state[o + IN_AIR] = 1
      state[o + HAS_STEPPED] = 1
      state[o + FROM] = state[o + STANDS]!
      state[o + GROUND_FROM] = this.groundUnder(k, state[o + STANDS]!)
    }
    if (state[o + IN_AIR] === 1 && p < table.duty) {
      state[o + IN_AIR] = 0
      state[o + STANDS] = state[o + TO]!
      state[o + GROUND_FROM] = state[o + GROUND_TO]!
    }
    if (state[o + IN_AIR] === 1) {
      state[o + TO] = gone + this.strideLength(pace) * (1 - p + table.duty / 2)
      state[o + GROUND_TO] = this.groundUnder(k, state[o + TO]!)
      return false
    }
    return Math.abs(state[o + STANDS]! - gone) <= HOME
  }

  /** Takes legs over from the pose while it walks, and gives them back once all stand at home. */
  private takeHold(isHome: boolean, turned: number): void {
    const { state, at } = this
    // On uneven ground they stay as it has them.
    const isGivenBack = this.table.ground.length === 0
    const grip = state[at + GRIP]! + (isHome && isGivenBack ? -turned : turned) / TAKEN_IN
    state[at + GRIP] = within(grip)
    if (!isHome || (isGivenBack && grip > 0)) return
    state[at + WALKS] = 0
    for (let k = 0; k < this.table.legs.length; k++) {
      const o = this.leg(k)
      state[o + STANDS] = state[at + GONE]!
      state[o + HAS_STEPPED] = 0
    }
  }

  /** Length of a stride at a pace. */
  private strideLength(pace: number): number {
    return (this.table.length * pace) / cadenceOf(pace)
  }

  private groundUnder(k: number, stands: number): number {
    const { table, state, at } = this
    if (table.ground.length === 0) return 0
    const leg = table.legs[k]!
    const x = (leg.heelX + leg.ballX) / 2 + state[at + CARRIED]! + state[at + SHOWN]! + this.way * (stands - state[at + GONE]!)
    return groundAt(table.ground, x) - leg.soleY
  }

  private groundOf(k: number): number {
    const { table, state, at } = this
    const o = this.leg(k)
    if (state[o + IN_AIR] === 0) return state[o + GROUND_FROM]!
    const t = minimumJerk(within((wrapped(state[at + PHASE]! - table.legs[k]!.at) - table.duty) / (1 - table.duty)))
    return state[o + GROUND_FROM]! + t * (state[o + GROUND_TO]! - state[o + GROUND_FROM]!)
  }

  /** The body follows the mean height of what its feet stand on. */
  private settleHeight(share: number): void {
    const { table, state, at } = this
    if (table.ground.length === 0 || table.legs.length === 0) return
    let sum = 0
    for (let k = 0; k < table.legs.length; k++) sum += this.groundOf(k)
    state[at + HEIGHT] = state[at + HEIGHT]! + share * (sum / table.legs.length - state[at + HEIGHT]!)
  }

  /** Writes what shows of it among what shows of all strides of a rig. */
  show(out: Float64Array): void {
    const { table, state, at } = this
    const to = table.shownAt
    const pace = state[at + PACE]!
    const share = Math.min(1, Math.abs(pace))
    out[to] = state[at + PHASE]!
    out[to + 1] = pace
    out[to + 2] = state[at + GRIP]!
    out[to + 3] = state[at + SHOWN]!
    out[to + 4] = state[at + HEIGHT]!
    for (let k = 0; k < table.legs.length; k++) this.showLeg(k, pace, share, out, to + WALK_SHOWN + LEG_SHOWN * k)
  }

  private showLeg(k: number, pace: number, share: number, out: Float64Array, to: number): void {
    const { table, state, at } = this
    const leg = table.legs[k]!
    const o = this.leg(k)
    const p = wrapped(state[at + PHASE]! - leg.at)
    if (!leg.touches) {
      // It goes round in the air, beside the body.
      out[to] = (leg.strength * this.strideLength(pace) * Math.cos(2 * Math.PI * p)) / 4
      out[to + 1] = leg.strength * table.lift * share * Math.sin(2 * Math.PI * p)
      out[to + 2] = 0
      out[to + 3] = 0
      return
    }
    const isUp = state[o + IN_AIR] === 1
    const q = isUp ? within((p - table.duty) / (1 - table.duty)) : 0
    const stands = isUp ? state[o + FROM]! + minimumJerk(q) * (state[o + TO]! - state[o + FROM]!) : state[o + STANDS]!
    const isRolled = isUp || p < table.duty
    out[to] = stands - state[at + GONE]!
    // Up soon, and down gently.
    out[to + 1] = leg.strength * table.lift * Math.min(1.3, 0.55 + 0.45 * Math.abs(pace)) * 16 * q * q * (1 - q) * (1 - q)
    out[to + 2] = isRolled ? Math.sign(pace) * share * table.roll * leg.strength * rollAt(p, table.duty, state[o + HAS_STEPPED] === 1) : 0
    out[to + 3] = this.groundOf(k)
  }
}

/** How far aside a pose has put the puppet with all it stands on, px: what moves its first bone along the ground moves its feet, too. */
export const carriedBy = ({ roots }: StrideTable, values: Float64Array): number => (roots.length > 0 ? values[boneSlot(roots[0]!) + 1]! : 0)

/** Strides a second at a pace, as a share of the tempo. */
const cadenceOf = (pace: number): number => Math.max(SLOWEST, Math.sqrt(Math.abs(pace)))

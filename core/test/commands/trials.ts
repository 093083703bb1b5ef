/** Random commands with undo and redo on a puppet that has one of everything; whatever is broken by them is told. */
import { canonicalJson } from '../../kernel/json'
import { parsePuppet } from '../../puppet/invariants'
import type { Puppet } from '../../puppet/schema'
import { perform, redo, startHistory, undo, walkTo, type History } from '../../puppet/history'
import { COMMANDS } from '../../puppet/commands'
import { compile } from '../../puppet/compile'
import { poseRig } from '../../puppet/evaluate'
import { seededRandom } from '../../maths/solve/random'
import { Arguments, pick } from './arguments'
import { everything } from './everything'
import { edit, type Edit } from '../../kernel/command'
import { EditError } from '../../kernel/errors'

export interface Trials {
  readonly accepted: ReadonlyMap<string, number>
  readonly refused: number
}

/** A frame whose numbers are not all finite; null where they are. */
function lostNumber(puppet: Puppet): string | null {
  const frame = poseRig(compile(puppet))
  const lists: Record<string, readonly (ArrayLike<number> | null)[]> = {
    bones: [frame.bones],
    parts: [frame.parts],
    opacity: [frame.opacity],
    points: frame.points,
    targets: [frame.targets],
    lineScale: [frame.lineScale],
  }
  for (const [name, arrays] of Object.entries(lists))
    for (const values of arrays) for (let i = 0; values && i < values.length; i++) if (!Number.isFinite(values[i])) return `${name}[${i}]`
  return null
}

class Trial {
  history: History
  readonly accepted = new Map<string, number>()
  refused = 0
  private readonly names = [...COMMANDS.keys()]

  constructor(private readonly random: () => number) {
    this.history = startHistory(everything())
  }

  /** One step: mostly a command, now and then undo or redo. Throws an Error that says what was broken, and by what. */
  step(): void {
    const chance = this.random()
    if (chance < 0.06) this.history = undo(this.history)
    else if (chance < 0.1) this.history = redo(this.history)
    else this.command(pick(this.names, this.random)!)
  }

  private command(name: string): void {
    const what = COMMANDS.get(name)!
    const before = this.history
    const args = new Arguments(before.puppet, this.random).of(what.schema)
    const said = `${name} ${JSON.stringify(args)?.slice(0, 300)}`
    try {
      this.history = perform(before, [edit(what, args) as Edit])
    } catch (error) {
      if (!(error instanceof EditError)) throw new Error(`${said} threw ${(error as Error).stack}`, { cause: error })
      this.refused++
      return
    }
    if (this.history === before) return
    this.accepted.set(name, (this.accepted.get(name) ?? 0) + 1)
    try {
      parsePuppet(JSON.parse(JSON.stringify(this.history.puppet)))
    } catch (error) {
      throw new Error(`${said} left a puppet that is not sound: ${(error as Error).message}`, { cause: error })
    }
    const lost = lostNumber(this.history.puppet)
    if (lost !== null) throw new Error(`${said} left ${lost} without a number`)
  }

  /** Walks back to the beginning and forth again; the documents must be the same. */
  walk(): void {
    const { puppet, done } = this.history
    const there = walkTo(walkTo(this.history, 0), done)
    if (canonicalJson(there.puppet) !== canonicalJson(puppet)) throw new Error('undoing and redoing everything gives another document')
  }
}

/** Runs so many steps from a seed. Throws an Error at the first thing that is broken. */
export function tryCommands(seed: number, steps: number): Trials {
  const trial = new Trial(seededRandom(seed))
  for (let i = 0; i < steps; i++) {
    try {
      trial.step()
    } catch (error) {
      throw new Error(`seed ${seed}, step ${i}: ${(error as Error).message}`, { cause: error })
    }
    if (i % 200 === 199) trial.walk()
    // A puppet that grew beyond measure, or has nothing left, is no ground for further trials.
    const size = Object.keys(trial.history.puppet.parts).length
    if (size > 60 || size < 3) trial.history = startHistory(everything())
  }
  trial.walk()
  return { accepted: trial.accepted, refused: trial.refused }
}

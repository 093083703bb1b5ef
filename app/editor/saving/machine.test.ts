/**
 * Saving as a model: a page that edits, a network that loses, doubles, delays and reorders, a server, a browser that keeps, and pages
 * that die and come back. Every order of these is a run.
 */
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { often } from '@marionette/core/test/often'
import { happen, isAtRisk, isSaved, LATEST, opened, told, nextSteps, type Saving, type Sent } from './machine'

interface Request extends Sent {
  readonly page: number
}

interface Answer {
  readonly page: number
  readonly saveId: string
  readonly ok: boolean
  readonly revision: number
  readonly isOurs: boolean
}

/** Ids of saves say which tab of the browser sent them. */
const isOfTab = (saveId: string | null): boolean => saveId?.startsWith('tab-') ?? false

/** The server: what the product's does with a save. */
class Server {
  revision = 1
  mark: unknown = 0
  saveId: string | null = null
  readonly done = new Map<string, number>()
  readonly confirmed: unknown[] = []

  save({ page, saveId, base, mark }: Request): Answer {
    const known = this.done.get(saveId)
    if (known !== undefined) return { page, saveId, ok: true, revision: known, isOurs: true }
    if (base !== this.revision) return { page, saveId, ok: false, revision: this.revision, isOurs: isOfTab(this.saveId) }
    Object.assign(this, { revision: this.revision + 1, mark, saveId })
    this.done.set(saveId, this.revision)
    return { page, saveId, ok: true, revision: this.revision, isOurs: true }
  }
}

interface Draft {
  readonly mark: unknown
  readonly base: number
}

class World {
  now = 0
  server = new Server()
  requests: Request[] = []
  answers: Answer[] = []
  keepings: { page: number; mark: unknown; base: number }[] = []
  draft: Draft | null = null
  page = 0
  edits = 0
  saving: Saving = opened(0, 0, 1, 0)
  private ids = 0

  private step(): void {
    const { state, steps } = nextSteps(this.saving, this.now, () => `tab-${++this.ids}`)
    this.saving = state
    if (steps.send) this.requests.push({ ...steps.send, page: this.page })
    if (steps.keep) this.keepings.push({ page: this.page, mark: state.present, base: state.base })
  }

  tell(what: Parameters<typeof happen>[1]): void {
    this.saving = happen(this.saving, what, this.now)
    this.step()
  }

  edit(): void {
    this.tell({ kind: 'edited', mark: ++this.edits })
  }

  pass(ms: number): void {
    this.now += ms
    this.tell({ kind: 'woke' })
  }

  deliver(at: number, isDoubled: boolean): void {
    const [request] = this.requests.splice(at % Math.max(1, this.requests.length), 1)
    if (!request) return
    this.answers.push(this.server.save(request))
    if (isDoubled) this.answers.push(this.server.save(request))
  }

  answer(at: number, isLost: boolean): void {
    const [answer] = this.answers.splice(at % Math.max(1, this.answers.length), 1)
    if (!answer || answer.page !== this.page) return
    const { saveId, ok, revision, isOurs } = answer
    if (isLost) return this.tell({ kind: 'lost', saveId })
    this.tell(ok ? { kind: 'answered', saveId, revision } : { kind: 'moved-on', saveId, revision, isOurs })
  }

  /** A request counts as lost by the page, but may still arrive. */
  giveUp(): void {
    if (this.saving.sending) this.tell({ kind: 'lost', saveId: this.saving.sending.saveId })
  }

  refuse(): void {
    const { sending } = this.saving
    this.requests = this.requests.filter((r) => r.saveId !== sending?.saveId)
    if (sending && !this.answers.some((a) => a.saveId === sending.saveId) && !this.server.done.has(sending.saveId))
      this.tell({ kind: 'refused', saveId: sending.saveId, message: 'The disk is full.' })
  }

  keep(isKept: boolean): void {
    const keeping = this.keepings.shift()
    if (!keeping) return
    if (isKept) this.draft = keeping
    if (keeping.page === this.page) this.tell({ kind: 'kept', mark: keeping.mark, isKept })
  }

  /** The page dies, and another opens what the server has with what the browser kept. */
  reload(): void {
    this.page++
    this.keepings = []
    // Where the browser could keep nothing the page asks before it closes; what dies with it all the same is cut off.
    const kept = (this.draft?.mark as number | undefined) ?? 0
    this.requests = this.requests.filter((r) => (r.mark as number) <= kept)
    const { server, draft } = this
    const isOurs = draft !== null && (draft.base === server.revision || isOfTab(server.saveId))
    // Marks grow: what was kept before the server got something newer has nothing to add.
    const isNewer = draft !== null && (draft.mark as number) > (server.mark as number)
    if (draft && isNewer) {
      expect(isOurs, 'a conflict with nobody').toBe(true)
      this.saving = opened(draft.mark, undefined, server.revision, this.now)
    } else this.saving = opened(server.mark, server.mark, server.revision, this.now)
    this.edits = Math.max(this.edits, this.saving.present as number)
    this.step()
  }

  ask(): void {
    this.tell({ kind: 'asked' })
  }

  /** The network is well again, and time passes. */
  heal(): void {
    this.tell({ kind: 'woke', online: true })
    for (let n = 0; n < 200 && !isSaved(this.saving); n++) {
      this.pass(1000)
      while (this.requests.length > 0) this.deliver(0, false)
      while (this.answers.length > 0) this.answer(0, false)
      while (this.keepings.length > 0) this.keep(true)
      if (this.saving.sending && this.requests.length === 0 && this.answers.length === 0) this.giveUp()
    }
  }
}

const step = fc.oneof(
  { weight: 4, arbitrary: fc.constant(['edit', 0, false] as const) },
  { weight: 4, arbitrary: fc.tuple(fc.constant('pass' as const), fc.integer({ min: 10, max: 9000 }), fc.constant(false)) },
  { weight: 3, arbitrary: fc.tuple(fc.constant('deliver' as const), fc.nat(3), fc.boolean()) },
  { weight: 3, arbitrary: fc.tuple(fc.constant('answer' as const), fc.nat(3), fc.boolean()) },
  { weight: 2, arbitrary: fc.tuple(fc.constant('keep' as const), fc.nat(0), fc.boolean()) },
  {
    weight: 1,
    arbitrary: fc.constantFrom(
      ['ask', 0, false] as const,
      ['giveUp', 0, false] as const,
      ['refuse', 0, false] as const,
      ['reload', 0, false] as const,
    ),
  },
)

function run(world: World, [what, n, flag]: readonly [string, number, boolean]): void {
  if (what === 'edit') world.edit()
  else if (what === 'pass') world.pass(n)
  else if (what === 'deliver') world.deliver(n, flag)
  else if (what === 'answer') world.answer(n, flag)
  else if (what === 'keep') world.keep(flag)
  else if (what === 'ask') world.ask()
  else if (what === 'giveUp') world.giveUp()
  else if (what === 'refuse') world.refuse()
  else world.reload()
}

describe('saving, in every order of edit, keep, send, answer, failure and reload', () => {
  test('says saved only of what the server has, never sees a conflict with itself, and ends up saved', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 80 }), (steps) => {
        const world = new World()
        for (const s of steps) {
          run(world, s)
          const said = told(world.saving)
          expect(said.kind).not.toBe('conflict')
          if (said.kind === 'saved') expect(world.server.mark).toBe(world.saving.present)
        }
        world.heal()
        expect(told(world.saving).kind).toBe('saved')
        expect(world.server.mark).toBe(world.saving.present)
      }),
      { numRuns: often(1500, 50_000), seed: 7 },
    )
  })

  test('what was kept or confirmed is there after any crash', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 60 }), (steps) => {
        const world = new World()
        for (const s of steps) {
          run(world, s)
          const known = Math.max((world.draft?.mark as number | undefined) ?? 0, world.server.mark as number)
          world.reload()
          expect(world.saving.present as number).toBeGreaterThanOrEqual(known)
        }
      }),
      { numRuns: 500, seed: 11 },
    )
  })

  test('while somebody works on and on, a save goes out at least every ten seconds', () => {
    const world = new World()
    let last = 0
    for (let t = 0; t < 120_000; t += 100) {
      world.edit()
      // Keeping takes its time as well: something newer has always come meanwhile.
      if (t % 300 === 0) world.keep(true)
      world.pass(100)
      if (world.requests.length > 0) {
        expect(world.now - last).toBeLessThanOrEqual(10_000)
        last = world.now
        world.deliver(0, false)
        world.answer(0, false)
      }
    }
    expect(world.now - last).toBeLessThanOrEqual(LATEST + 1000)
    expect(world.server.revision).toBeGreaterThan(20)
  })
})

describe('a browser that can keep nothing', () => {
  test('is not asked again and again for the same state, but for every other', () => {
    const world = new World()
    world.edit()
    world.keep(false)
    world.pass(1)
    expect(world.keepings).toHaveLength(0)
    expect(isAtRisk(world.saving)).toBe(true)
    world.edit()
    expect(world.keepings).toHaveLength(1)
    world.keep(true)
    expect(isAtRisk(world.saving)).toBe(false)
  })

  test('does not keep what is edited from the server', () => {
    const world = new World()
    world.edit()
    world.keep(false)
    world.pass(1000)
    world.deliver(0, false)
    world.answer(0, false)
    expect(told(world.saving).kind).toBe('saved')
  })
})

describe('another person', () => {
  test('who saved in between is a conflict, and nothing is sent any more', () => {
    const world = new World()
    world.server.save({ page: 9, mark: 'theirs', saveId: 'theirs', base: 1 })
    world.edit()
    world.keep(true)
    world.pass(1000)
    world.deliver(0, false)
    world.answer(0, false)
    expect(told(world.saving)).toEqual({ kind: 'conflict', revision: 2 })
    world.edit()
    world.pass(60_000)
    expect(world.requests).toEqual([])
  })

  test('who saved on top of a save of ours whose answer was lost is one as well', () => {
    const world = new World()
    world.edit()
    world.keep(true)
    world.pass(1000)
    world.deliver(0, false)
    world.answer(0, true)
    world.server.save({ page: 9, mark: 'theirs', saveId: 'theirs', base: 2 })
    world.pass(5000)
    world.deliver(0, false)
    world.answer(0, false)
    expect(told(world.saving).kind).toBe('conflict')
  })
})

describe('saving when it is asked for', () => {
  test('waits neither for more edits nor for the end of a pause', () => {
    const world = new World()
    world.edit()
    world.keep(true)
    expect(world.requests).toHaveLength(0)
    world.ask()
    expect(world.requests).toHaveLength(1)
    world.requests = []
    world.giveUp()
    world.ask()
    expect(world.requests).toHaveLength(1)
  })

  test('sends nothing when everything is saved', () => {
    const world = new World()
    world.ask()
    world.pass(60_000)
    expect(world.requests).toHaveLength(0)
  })
})

describe('pauses between tries', () => {
  test('grow while the server is away, and end when the network is back', () => {
    const world = new World()
    world.edit()
    world.keep(false)
    const sent: number[] = []
    for (let t = 0; t < 120_000; t += 100) {
      world.pass(100)
      if (world.requests.length > 0) {
        sent.push(world.now)
        world.requests = []
        world.giveUp()
      }
    }
    const gaps = sent.slice(1).map((at, i) => at - sent[i]!)
    expect(gaps.slice(0, 4)).toEqual([1000, 2000, 4000, 8000])
    expect(Math.max(...gaps)).toBe(30_000)
    expect(told(world.saving)).toEqual({ kind: 'offline', isKept: false })
    world.tell({ kind: 'woke', online: true })
    expect(world.requests).toHaveLength(1)
  })
})

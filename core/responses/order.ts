/**
 * In which order controls and responses act: what one moves comes before what listens to it, corrections last as far as
 * that goes. What would wait for itself is refused by name when it is made.
 */
import { bonesAddresses } from '../bones/channels'
import { constraintAddresses, targetAddresses } from '../constraints/channels'
import type { BoneId } from '../kernel/ids'
import { axesOf, controlChannel, type Control } from '../controls/records'
import { movedBones, targetsOf } from '../constraints/records'
import type { Input, InputSpot, Response } from './records'
import type { Puppet } from '../puppet/schema'

type Rigged = Pick<Puppet, 'bones' | 'targets' | 'constraints' | 'controls' | 'responses'>

/** A thing that listens and moves: a response, or a control with ties. */
export type Responder = { readonly kind: 'response'; readonly of: Response } | { readonly kind: 'control'; readonly of: Control }

/** Whether a constraint can turn or draw out a bone, so that its own value does not say where it ends up. */
export const isConstrained = ({ constraints }: Pick<Puppet, 'constraints'>, bone: BoneId): boolean =>
  constraints.some((c) => movedBones(c).includes(bone))

/** The bone of a channel of a bone's angle or length, or null. */
export function boneOfChannel(address: string): BoneId | null {
  const [family, id, field] = address.split('/')
  return family === 'bone' && (field === 'angle' || field === 'length') ? id! : null
}

/** Whether an input can only be told once the skeleton is posed. */
export function isLate(puppet: Pick<Puppet, 'constraints'>, input: Input): boolean {
  if (input.kind === 'speed') return false
  if (input.kind !== 'channel') return true
  const bone = boneOfChannel(input.channel)
  return bone !== null && isConstrained(puppet, bone)
}

/** Addresses that the place of a bone depends on: its own, those above, and of constraints that move them. */
function addReadsOfBone(puppet: Rigged, bone: BoneId, into: Set<string>, seen: Set<BoneId>): void {
  for (let id: BoneId | null = bone; id !== null && !seen.has(id); id = puppet.bones[id]?.parent ?? null) {
    seen.add(id)
    for (const address of bonesAddresses(id)) into.add(address)
    for (const c of puppet.constraints) {
      if (!movedBones(c).includes(id)) continue
      for (const address of constraintAddresses(c.id)) into.add(address)
      for (const target of targetsOf(c)) addReadsOfTarget(puppet, target, into, seen)
      for (const other of c.kind === 'copy' ? [c.from] : movedBones(c)) addReadsOfBone(puppet, other, into, seen)
    }
  }
}

function addReadsOfTarget(puppet: Rigged, target: string, into: Set<string>, seen: Set<BoneId>): void {
  for (const address of targetAddresses(target)) into.add(address)
  const parent = puppet.targets[target]?.parent
  if (parent) addReadsOfBone(puppet, parent, into, seen)
}

function addReadsOfSpot(puppet: Rigged, spot: InputSpot, into: Set<string>): void {
  if ('bone' in spot) addReadsOfBone(puppet, spot.bone, into, new Set())
  else addReadsOfTarget(puppet, spot.target, into, new Set())
}

/** Addresses that an input depends on. */
export function readsOf(puppet: Rigged, input: Input): Set<string> {
  const out = new Set<string>()
  if (input.kind === 'channel') {
    out.add(input.channel)
    const bone = boneOfChannel(input.channel)
    if (bone !== null && isConstrained(puppet, bone)) addReadsOfBone(puppet, bone, out, new Set())
  } else if (input.kind !== 'speed') for (const spot of [input.from, input.to]) addReadsOfSpot(puppet, spot, out)
  return out
}

/** Addresses that a response changes in any of its stops. */
export const movedByResponse = ({ stops }: Pick<Response, 'stops'>): Set<string> =>
  new Set(stops.flatMap((s) => s.changes).flatMap((c) => (c.kind === 'channel' || c.kind === 'choice' ? [c.channel] : [])))

const nameOf = (a: Responder): string => a.of.name

interface Node {
  readonly it: Responder
  readonly reads: ReadonlySet<string>
  readonly moves: ReadonlySet<string>
  readonly isLast: boolean
}

function nodesOf(puppet: Rigged): Node[] {
  const controls = puppet.controls
    .filter((c) => c.ties.length > 0)
    .map((of): Node => {
      const own = of.bone === null ? axesOf(of).map((axis) => controlChannel(of, axis)) : [controlChannel(of)]
      const reads = of.bone === null ? new Set(own) : readsOf(puppet, { kind: 'channel', channel: own[0]! })
      return { it: { kind: 'control', of }, reads, moves: new Set(of.ties.map((t) => t.channel)), isLast: false }
    })
  const responses = puppet.responses.map((of): Node => {
    const reads = new Set(of.inputs.flatMap((input) => [...readsOf(puppet, input)]))
    return { it: { kind: 'response', of }, reads, moves: movedByResponse(of), isLast: of.kind === 'correction' }
  })
  return [...controls, ...responses]
}

const waitsFor = (a: Node, b: Node): boolean => {
  for (const address of b.moves) if (a.reads.has(address)) return true
  return false
}

/**
 * Controls with ties and responses in the order in which they act (Kahn 1962).
 *
 * @returns in place of an order, the names of those that wait for each other in a circle, where there is one
 */
export function responseOrder(puppet: Rigged): Responder[] | { readonly circle: string[] } {
  const nodes = nodesOf(puppet)
  const waits = nodes.map((a) => new Set(nodes.flatMap((b, k) => (waitsFor(a, b) ? [k] : []))))
  const out: Responder[] = []
  const open = new Set(nodes.keys())
  while (open.size > 0) {
    const ready = [...open].filter((k) => [...waits[k]!].every((w) => !open.has(w)))
    const next = ready.find((k) => !nodes[k]!.isLast) ?? ready[0]
    if (next === undefined) return { circle: circleIn(nodes, waits, open) }
    open.delete(next)
    out.push(nodes[next]!.it)
  }
  return out
}

/** Names along a circle among those that are left. */
function circleIn(nodes: readonly Node[], waits: readonly ReadonlySet<number>[], open: ReadonlySet<number>): string[] {
  const way: number[] = []
  for (let at = [...open][0]!; ; at = [...waits[at]!].find((w) => open.has(w))!) {
    const seen = way.indexOf(at)
    if (seen >= 0) return [...way.slice(seen), at].reverse().map((k) => nameOf(nodes[k]!.it))
    way.push(at)
  }
}

/** A sentence on what waits for itself; null where nothing does. */
export function responseCircle(puppet: Rigged): string | null {
  const order = responseOrder(puppet)
  if (!('circle' in order)) return null
  const names = order.circle.map((name) => `“${name}”`)
  return names.length === 2 ? `${names[0]} would answer to itself.` : `${names.join(' moves ')}: this goes in a circle.`
}

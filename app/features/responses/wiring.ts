/** The graph of a puppet's wiring: what is listened to, what answers, and what is moved by it. */
import { changeKey, controlChannel, type Change, type Input, type Puppet } from '@marionette/core/puppet/schema'
import { axesOf } from '@marionette/core/puppet/schema'
import { inputWords, ownerName } from './words'

export type WireKind = 'input' | 'control' | 'response' | 'moved' | 'group'

export interface WireNode {
  readonly id: string
  readonly kind: WireKind
  readonly name: string
  readonly note: string
  /** What a click on it selects. */
  readonly target: { readonly kind: 'bone' | 'part' | 'control' | 'response'; readonly id: string } | null
}

export interface Wire {
  readonly from: string
  readonly to: string
}

export interface Wiring {
  readonly nodes: readonly WireNode[]
  readonly wires: readonly Wire[]
}

/** The thing that a channel belongs to, as a node: all channels of one thing are one. */
function nodeOfChannel(puppet: Puppet, address: string): WireNode {
  const [family = '', id = ''] = address.split('/')
  const control = family === 'control' ? puppet.controls.find((c) => c.id === id) : undefined
  const kind = control ? 'control' : 'moved'
  const target = family === 'bone' || family === 'part' || family === 'control' ? ({ kind: family, id } as const) : null
  return { id: `${family}/${id}`, kind, name: ownerName(puppet, address), note: control ? control.kind : family, target }
}

function nodeOfInput(puppet: Puppet, input: Input): WireNode {
  if (input.kind === 'channel') {
    const node = nodeOfChannel(puppet, input.channel)
    return node.kind === 'control' ? node : { ...node, kind: 'input' }
  }
  return { id: JSON.stringify(input), kind: 'input', name: inputWords(puppet, input), note: input.kind, target: null }
}

const nodeOfChange = (puppet: Puppet, change: Change): WireNode =>
  change.kind === 'channel' || change.kind === 'choice'
    ? nodeOfChannel(puppet, change.channel)
    : {
        id: `part/${change.part}`,
        kind: 'moved',
        name: puppet.parts[change.part]?.name ?? '',
        note: 'part',
        target: { kind: 'part', id: change.part },
      }

/** All wiring of a puppet. */
export function wiringOf(puppet: Puppet): Wiring {
  const nodes = new Map<string, WireNode>()
  const wires = new Map<string, Wire>()
  const put = (node: WireNode): string => {
    const known = nodes.get(node.id)
    // What is listened to and moved both stands once, as something that is listened to.
    if (!known || known.kind === 'moved') nodes.set(node.id, node)
    return node.id
  }
  const wire = (from: string, to: string): void => void (from !== to && wires.set(`${from} ${to}`, { from, to }))
  for (const response of puppet.responses) {
    const changes = new Map(response.stops.flatMap((s) => s.changes).map((c) => [changeKey(c), c]))
    const own = put({
      ...{ id: `response/${response.id}`, kind: 'response', name: response.name },
      ...{ note: response.muted ? 'muted' : response.kind, target: { kind: 'response', id: response.id } },
    })
    for (const input of response.inputs) wire(put(nodeOfInput(puppet, input)), own)
    for (const change of changes.values()) wire(own, put(nodeOfChange(puppet, change)))
  }
  for (const control of puppet.controls) {
    if (control.ties.length === 0) continue
    const own = put(nodeOfChannel(puppet, axesOf(control)[0] ? controlChannel(control, axesOf(control)[0]) : controlChannel(control)))
    for (const tie of control.ties) wire(own, put(nodeOfChannel(puppet, tie.channel)))
  }
  return { nodes: [...nodes.values()], wires: [...wires.values()] }
}

/** What leads to some nodes and what they lead to. */
export function around({ nodes, wires }: Wiring, chosen: ReadonlySet<string>): Wiring {
  const reach = (from: 'from' | 'to', to: 'from' | 'to'): Set<string> => {
    const out = new Set(chosen)
    for (let size = -1; size !== out.size;) {
      size = out.size
      for (const wire of wires) if (out.has(wire[from])) out.add(wire[to])
    }
    return out
  }
  const kept = new Set([...reach('from', 'to'), ...reach('to', 'from')])
  return { nodes: nodes.filter((n) => kept.has(n.id)), wires: wires.filter((w) => kept.has(w.from) && kept.has(w.to)) }
}

/** Only the neighbours of some nodes, and they themselves. */
export function beside({ nodes, wires }: Wiring, chosen: ReadonlySet<string>): Wiring {
  const own = wires.filter((w) => chosen.has(w.from) || chosen.has(w.to))
  const kept = new Set([...chosen, ...own.flatMap((w) => [w.from, w.to])])
  return { nodes: nodes.filter((n) => kept.has(n.id)), wires: own }
}

/** Parts of one group from which they are shown as that group. */
const FEWEST = 2

/** Groups of moved parts, by the nodes that stand for them. */
function groupsOf(puppet: Puppet, { nodes, wires }: Wiring): Map<string, WireNode[]> {
  const listening = new Set(wires.map((w) => w.from))
  const groups = new Map<string, WireNode[]>()
  for (const node of nodes) {
    // What is listened to as well keeps its own place.
    if (node.kind !== 'moved' || node.target?.kind !== 'part' || listening.has(node.id)) continue
    const parent = puppet.parts[node.target.id]?.parent ?? null
    if (parent === null || parent === puppet.root) continue
    groups.set(parent, [...(groups.get(parent) ?? []), node])
  }
  return groups
}

/**
 * Connections with the parts of a group behind a node of that group, on which it says how many there are.
 *
 * @param open groups whose parts are shown: they hang on the node of their group
 */
export function byGroup(puppet: Puppet, wiring: Wiring, open: ReadonlySet<string>): Wiring {
  const nodes = new Map(wiring.nodes.map((n) => [n.id, n]))
  const wires = new Map<string, Wire>()
  const instead = new Map<string, string>()
  const wire = (from: string, to: string): void => void (from !== to && wires.set(`${from} ${to}`, { from, to }))
  for (const [parent, members] of groupsOf(puppet, wiring)) {
    if (members.length < FEWEST) continue
    const id = `group/${parent}`
    const isOpen = open.has(id)
    nodes.set(id, { id, kind: 'group', name: puppet.parts[parent]?.name ?? '', note: `${members.length} parts`, target: null })
    for (const member of members) {
      instead.set(member.id, id)
      if (isOpen) wire(id, member.id)
      else nodes.delete(member.id)
    }
  }
  for (const { from, to } of wiring.wires) wire(from, instead.get(to) ?? to)
  return { nodes: [...nodes.values()], wires: [...wires.values()] }
}

/** Nodes whose names hold some words. */
export function found({ nodes }: Wiring, words: string): Set<string> {
  const wanted = words.trim().toLowerCase()
  return new Set(wanted === '' ? [] : nodes.flatMap((n) => (n.name.toLowerCase().includes(wanted) ? [n.id] : [])))
}

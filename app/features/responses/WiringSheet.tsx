/** The wiring as a graph: inputs and controls on the left, what answers in the middle, what is moved on the right. */
import dagre from '@dagrejs/dagre'
import { Background, Controls, Handle, MiniMap, Position, ReactFlow, type Edge, type Node, type NodeProps } from '@xyflow/react'
import '@xyflow/react/dist/style.css'
import { ChevronDown, ChevronRight } from 'lucide-react'
import { useMemo, useState } from 'react'
import { partsBelow } from '@marionette/core/parts/tree'
import type { Puppet } from '@marionette/core/puppet/schema'
import { usePuppet } from '../../editor/document'
import { openPanel, selectBones, selectControl, selectParts, useSession, type Selection } from '../../editor/session'
import { Segments } from '../../ui/Segments'
import { Sheet } from '../../ui/Sheet'
import { openResponse } from './ResponseList'
import { FindField } from '../../panels/FindField'
import { useRecording } from './recording'
import { around, beside, byGroup, found, wiringOf, type WireKind, type WireNode, type Wiring } from './wiring'
import { useEditor, type Editor } from '../../editor/editor'

const WIDE = 168
const HIGH = 44

const EDGES: Record<WireKind, string> = {
  input: 'border-l-[var(--chain-6)]',
  control: 'border-l-[var(--brass)]',
  response: 'border-l-[var(--cord)]',
  moved: 'border-l-[var(--verdigris)]',
  group: 'border-l-[var(--verdigris)]',
}

type Box = Node<{ node: WireNode; isOpen: boolean }, 'thing'>

function Thing({ data: { node, isOpen } }: NodeProps<Box>) {
  const Fold = isOpen ? ChevronDown : ChevronRight
  return (
    <div
      className={`flex flex-col justify-center rounded-lg border-l-4 bg-panel px-2.5 text-left shadow-1 ${EDGES[node.kind]}`}
      style={{ width: WIDE, height: HIGH }}
    >
      <Handle type="target" position={Position.Left} className="!border-0 !bg-transparent" />
      <b className="truncate text-[13px]/[17px] font-medium">{node.name}</b>
      <span className="cap flex items-center gap-1 truncate" aria-expanded={node.kind === 'group' ? isOpen : undefined}>
        {node.note} {node.kind === 'group' && <Fold size={12} aria-hidden />}
      </span>
      <Handle type="source" position={Position.Right} className="!border-0 !bg-transparent" />
    </div>
  )
}

const KINDS = { thing: Thing }

/** Layers from left to right (after Sugiyama 1981, by dagre). */
function laidOut({ nodes, wires }: Wiring, open: ReadonlySet<string>): { boxes: Box[]; edges: Edge[] } {
  const graph = new dagre.graphlib.Graph()
  graph.setGraph({ rankdir: 'LR', nodesep: 10, ranksep: 90 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const node of nodes) graph.setNode(node.id, { width: WIDE, height: HIGH })
  for (const { from, to } of wires) graph.setEdge(from, to)
  dagre.layout(graph)
  return {
    boxes: nodes.map((node) => {
      const { x, y } = graph.node(node.id) as { x: number; y: number }
      return {
        id: node.id,
        type: 'thing',
        data: { node, isOpen: open.has(node.id) },
        position: { x: x - WIDE / 2, y: y - HIGH / 2 },
        draggable: false,
        width: WIDE,
        height: HIGH,
      }
    }),
    edges: wires.map(({ from, to }) => ({ id: `${from} ${to}`, source: from, target: to, style: { stroke: 'var(--twine)' } })),
  }
}

function show(editor: Editor, { target }: WireNode): void {
  if (!target) return
  openPanel(editor, null)
  if (target.kind === 'bone') selectBones(editor, target.id)
  else if (target.kind === 'part') selectParts(editor, target.id)
  else if (target.kind === 'response') openResponse(editor, target.id)
  else {
    useSession.of(editor).setState({ shelfOpen: true, arranging: true })
    selectControl(editor, target.id)
  }
}

/** The nodes of what is selected; of a group all of its parts count. */
const idsOf = (puppet: Puppet, { kind, ids }: Selection, control: string | null, response: string | null): Set<string> =>
  new Set([
    ...ids.flatMap((id) => (kind === 'part' ? partsBelow(puppet, id).map((p) => p.id) : [id])).map((id) => `${kind}/${id}`),
    ...(control ? [`control/${control}`] : []),
    ...(response && ids.length === 0 ? [`response/${response}`] : []),
  ])

const SCOPES = [
  { value: 'chosen', label: 'Around the selection' },
  { value: 'all', label: 'Everything' },
] as const

const LEGEND: readonly (readonly [WireKind, string])[] = [
  ['input', 'Listened to'],
  ['control', 'Control'],
  ['response', 'Response'],
  ['moved', 'Moved by it'],
]

/** Smaller than this it cannot be read: what does not fit is beside, and on the map. */
const READABLE = 0.75

/** What is shown: what is looked for, else what is around the selection, else everything; parts behind their groups. */
function useShown(
  find: string,
  scope: 'all' | 'chosen',
  open: ReadonlySet<string>,
): { shown: Wiring; hasChosen: boolean; isFound: boolean } {
  const puppet = usePuppet((p) => p)
  const selection = useSession((s) => s.selection)
  const control = useSession((s) => s.control)
  const response = useRecording((s) => s.open)
  const all = useMemo(() => wiringOf(puppet), [puppet])
  return useMemo(() => {
    const chosen = idsOf(puppet, selection, control, response)
    const hasChosen = all.nodes.some((n) => chosen.has(n.id))
    const hits = found(all, find)
    const some = find.trim() !== '' ? beside(all, hits) : scope === 'chosen' && hasChosen ? around(all, chosen) : all
    return { shown: byGroup(puppet, some, open), hasChosen, isFound: find.trim() === '' || hits.size > 0 }
  }, [all, puppet, selection, control, response, find, scope, open])
}

export default function WiringSheet() {
  const editor = useEditor()
  const [scope, setScope] = useState<'all' | 'chosen'>('chosen')
  const [find, setFind] = useState('')
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set())
  const { shown, hasChosen, isFound } = useShown(find, scope, open)
  const { boxes, edges } = useMemo(() => laidOut(shown, open), [shown, open])
  const toggle = (id: string): void => setOpen((now) => new Set(now.has(id) ? [...now].filter((o) => o !== id) : [...now, id]))
  return (
    <Sheet
      open
      full
      title="Connections"
      text="What is listened to, what answers, and what is moved by it. Click a box to go there, a group to see its parts."
      onClose={() => openPanel(editor, null)}
    >
      <div className="mb-2 flex items-center gap-4">
        <div className="w-56">
          <FindField what="connections" value={find} isOn={find !== ''} onChange={setFind} onClear={() => setFind('')} />
        </div>
        {hasChosen && (
          <div className="flex w-72">
            <Segments label="What is shown" value={scope} options={SCOPES} onChange={setScope} />
          </div>
        )}
        <ul aria-label="Colours" className="ml-auto flex gap-4">
          {LEGEND.map(([kind, words]) => (
            <li key={kind} className={`border-l-4 pl-1.5 text-xs text-quiet ${EDGES[kind]}`}>
              {words}
            </li>
          ))}
        </ul>
      </div>
      <div className="h-[62vh] overflow-hidden rounded-xl bg-[var(--stage)]" data-testid="wiring">
        {boxes.length === 0 ? (
          <p className="p-6 text-quiet">
            {isFound ? 'Nothing answers yet: record a response, or tie a channel to a control.' : `Nothing is called “${find}”.`}
          </p>
        ) : (
          <Graph
            key={`${scope} ${find}`}
            boxes={boxes}
            edges={edges}
            onClick={(node) => (node.kind === 'group' ? toggle(node.id) : show(editor, node))}
          />
        )}
      </div>
    </Sheet>
  )
}

interface GraphProps {
  readonly boxes: Box[]
  readonly edges: Edge[]
  readonly onClick: (node: WireNode) => void
}

function Graph({ boxes, edges, onClick }: GraphProps) {
  return (
    <ReactFlow
      nodes={boxes}
      edges={edges}
      nodeTypes={KINDS}
      fitView
      fitViewOptions={{ minZoom: READABLE, maxZoom: 1, padding: 0.06 }}
      minZoom={0.1}
      nodesConnectable={false}
      elementsSelectable={false}
      proOptions={{ hideAttribution: true }}
      onNodeClick={(_, box) => onClick(box.data.node)}
    >
      <Background color="var(--hair)" gap={24} />
      <Controls showInteractive={false} />
      <MiniMap
        pannable
        zoomable
        style={{ width: 150, height: 110 }}
        bgColor="var(--panel)"
        maskColor="color-mix(in srgb, var(--stage) 70%, transparent)"
        nodeColor="var(--quiet)"
        ariaLabel="Overview"
      />
    </ReactFlow>
  )
}

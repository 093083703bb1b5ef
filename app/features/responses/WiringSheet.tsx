/** The wiring as a graph: inputs and controls on the left, what answers in the middle, what is moved on the right. */
import dagre from '@dagrejs/dagre'
import { Background, Controls, Handle, Position, ReactFlow, type Edge, type Node, type NodeProps } from '@xyflow/react'
import '@xyflow/react/dist/style.css'
import { useMemo, useState } from 'react'
import { usePuppet } from '../../editor/document'
import { openPanel, selectBones, selectControl, selectParts, useSession, type Selection } from '../../editor/session'
import { Segments } from '../../ui/Segments'
import { Sheet } from '../../ui/Sheet'
import { openResponse } from './ResponseList'
import { around, wiringOf, type WireKind, type WireNode, type Wiring } from './wiring'
import { useEditor, type Editor } from '../../editor/editor'

const WIDE = 168
const HIGH = 44

const EDGES: Record<WireKind, string> = {
  input: 'border-l-[var(--chain-6)]',
  control: 'border-l-[var(--brass)]',
  response: 'border-l-[var(--cord)]',
  moved: 'border-l-[var(--verdigris)]',
}

type Box = Node<{ node: WireNode }, 'thing'>

function Thing({ data: { node } }: NodeProps<Box>) {
  return (
    <div
      className={`flex flex-col justify-center rounded-lg border-l-4 bg-panel px-2.5 text-left shadow-1 ${EDGES[node.kind]}`}
      style={{ width: WIDE, height: HIGH }}
    >
      <Handle type="target" position={Position.Left} className="!border-0 !bg-transparent" />
      <b className="truncate text-[13px]/[17px] font-medium">{node.name}</b>
      <span className="cap truncate">{node.note}</span>
      <Handle type="source" position={Position.Right} className="!border-0 !bg-transparent" />
    </div>
  )
}

const KINDS = { thing: Thing }

/** Layers from left to right (after Sugiyama 1981, by dagre). */
function laidOut({ nodes, wires }: Wiring): { boxes: Box[]; edges: Edge[] } {
  const graph = new dagre.graphlib.Graph()
  graph.setGraph({ rankdir: 'LR', nodesep: 10, ranksep: 90 })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const node of nodes) graph.setNode(node.id, { width: WIDE, height: HIGH })
  for (const { from, to } of wires) graph.setEdge(from, to)
  dagre.layout(graph)
  return {
    boxes: nodes.map((node) => {
      const { x, y } = graph.node(node.id) as { x: number; y: number }
      return { id: node.id, type: 'thing', data: { node }, position: { x: x - WIDE / 2, y: y - HIGH / 2 }, draggable: false }
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

const idsOf = ({ kind, ids }: Selection, control: string | null): Set<string> =>
  new Set([...ids.map((id) => `${kind}/${id}`), ...(control ? [`control/${control}`] : [])])

const SCOPES = [
  { value: 'all', label: 'Everything' },
  { value: 'chosen', label: 'Around the selection' },
] as const

export default function WiringSheet() {
  const editor = useEditor()
  const puppet = usePuppet((p) => p)
  const selection = useSession((s) => s.selection)
  const control = useSession((s) => s.control)
  const all = useMemo(() => wiringOf(puppet), [puppet])
  const chosen = idsOf(selection, control)
  const hasChosen = all.nodes.some((n) => chosen.has(n.id))
  const [scope, setScope] = useState<'all' | 'chosen'>(hasChosen ? 'chosen' : 'all')
  const { boxes, edges } = laidOut(scope === 'chosen' && hasChosen ? around(all, chosen) : all)
  return (
    <Sheet
      open
      full
      title="Connections"
      text="What is listened to, what answers, and what is moved by it. Click a box to go there."
      onClose={() => openPanel(editor, null)}
    >
      <div className="mb-2 flex w-72">
        <Segments
          label="What is shown"
          value={hasChosen ? scope : 'all'}
          options={hasChosen ? SCOPES : SCOPES.slice(0, 1)}
          onChange={setScope}
        />
      </div>
      <div className="h-[62vh] overflow-hidden rounded-xl bg-[var(--stage)]" data-testid="wiring">
        {boxes.length === 0 ? (
          <p className="p-6 text-quiet">Nothing answers yet: record a response, or tie a channel to a control.</p>
        ) : (
          <ReactFlow
            key={`${scope} ${boxes.length}`}
            nodes={boxes}
            edges={edges}
            nodeTypes={KINDS}
            fitView
            minZoom={0.1}
            nodesConnectable={false}
            elementsSelectable={false}
            proOptions={{ hideAttribution: true }}
            onNodeClick={(_, box) => show(editor, box.data.node)}
          >
            <Background color="var(--hair)" gap={24} />
            <Controls showInteractive={false} />
          </ReactFlow>
        )}
      </div>
    </Sheet>
  )
}

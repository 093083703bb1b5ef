/** What the touch-up tool in hand can be set to, and what can be done with the selected points. */
import { counted } from '@marionette/core/kernel/counted'
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignStartHorizontal,
  AlignStartVertical,
  ChevronDown,
  Diamond,
  EyeOff,
  FlipHorizontal2,
  FlipVertical2,
  Link2,
  Magnet,
  Spline,
  Trash2,
} from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import type { Alignment } from '@marionette/core/artwork/touch/points'
import type { Falloff } from '@marionette/core/artwork/touch/softPull'
import { useDocument } from '../../editor/document'
import { useSession, useTool, type BenchId } from '../../editor/session'
import { useTouch } from './settings'
import type { StageView } from '../../stage/stageView'
import { deleteSelected } from './pointsTool'
import type { Puppet } from '@marionette/core/puppet/schema'
import { Button, IconButton } from '../../ui/Button'
import { MENU, MENU_ITEM } from '../../ui/menu'
import { Segments } from '../../ui/Segments'
import { SmallNumber } from '../../ui/SmallNumber'
import { StageBar } from '../../stage/StageBar'
import { PaintSettings } from './PaintSettings'
import {
  alignSelected,
  flipSelected,
  hideSelected,
  joinSelected,
  makeCorners,
  makeCurves,
  taperSelected,
  thickenSelected,
  widthOfSelected,
} from './pointActions'
import { deleteChosen, joinVertices, makeDenser, makeDenserWhereBent, selectedPicture } from './mesh'
import { selectedDrawing } from './target'
import { useEditor, type Editor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { Box } from '../../ui/Box'

const TOUCH_TOOLS = ['points', 'pen', 'freehand', 'figure', 'pull', 'paint'] as const

/** How many triangles the mesh of the selected picture has. */
function trianglesOf(editor: Editor, puppet: Puppet): number | null {
  const found = selectedPicture(editor, puppet)
  return found && found.picture.mesh.triangles.length / 3
}

/** Benches at which drawings are touched up. */
const BENCHES: ReadonlySet<BenchId> = new Set(['shape', 'face', 'rehearse'])

export function TouchBar({ view }: { view: StageView }) {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const tool = useTool(bench, 'pose')
  const selected = useSession((s) => s.selection)
  const triangles = useDocument((s) => (s.puppet && selected ? trianglesOf(editor, s.puppet) : null))
  const isTouch = BENCHES.has(bench) && (TOUCH_TOOLS as readonly string[]).includes(tool)
  if (!isTouch) return null
  return (
    <StageBar label="Touch-up">
      {tool === 'points' && (triangles === null ? <PointSettings view={view} /> : <MeshSettings edges={triangles} />)}
      {tool === 'pull' && <PullSettings />}
      {tool === 'freehand' && <FreehandSettings />}
      {tool === 'figure' && <FigureSettings />}
      {tool !== 'points' && tool !== 'pull' && <PaintSettings tool={tool} />}
      {tool !== 'paint' && tool !== 'freehand' && tool !== 'pull' && triangles === null && <SnapToggle />}
    </StageBar>
  )
}

function SnapToggle() {
  const editor = useEditor()
  const snaps = useTouch((s) => s.snaps)
  return (
    <IconButton
      label="Snap to points, pivots and guides"
      aria-pressed={snaps}
      className={snaps ? 'bg-verdigris-soft text-verdigris!' : ''}
      onClick={() => useTouch.of(editor).setState({ snaps: !snaps })}
    >
      <Magnet size={16} />
    </IconButton>
  )
}

const ALIGNMENTS: readonly { readonly to: Alignment; readonly label: string; readonly icon: typeof Link2 }[] = [
  { to: 'left', label: 'Align left', icon: AlignStartVertical },
  { to: 'middle', label: 'Align on an upright line', icon: AlignCenterVertical },
  { to: 'right', label: 'Align right', icon: AlignEndVertical },
  { to: 'top', label: 'Align top', icon: AlignStartHorizontal },
  { to: 'centre', label: 'Align on a level line', icon: AlignCenterHorizontal },
  { to: 'bottom', label: 'Align bottom', icon: AlignEndHorizontal },
]

const Rule = () => <i aria-hidden className="mx-0.5 h-5 w-px bg-hair" />

function MeshSettings({ edges }: { edges: number }) {
  const editor = useEditor()
  const points = useTouch((s) => s.points)
  const edge = useTouch((s) => s.edge)
  return (
    <>
      <span className="num px-2 text-xs whitespace-nowrap text-quiet" data-testid="point-count">
        {edge ? 'an edge' : counted(points.size, 'point')} of {counted(edges, 'triangle')}
      </span>
      <IconButton label="Join two points by an edge" disabled={points.size !== 2} onClick={() => joinVertices(editor)} className="size-7!">
        <Link2 size={15} />
      </IconButton>
      <IconButton
        label={edge ? 'Take the edge out' : 'Delete points'}
        disabled={points.size === 0 && !edge}
        onClick={() => deleteChosen(editor)}
        className="size-7!"
      >
        <Trash2 size={15} />
      </IconButton>
      <Rule />
      <Button small onClick={() => makeDenser(editor)}>
        Denser
      </Button>
      <Button small onClick={() => void makeDenserWhereBent(editor)}>
        Denser where it bends
      </Button>
    </>
  )
}

function PointSettings({ view }: { view: StageView }) {
  const editor = useEditor()
  const points = useTouch((s) => s.points)
  const mode = useTouch((s) => s.pointMode)
  const share = useDocument(() => {
    const found = selectedDrawing(editor)
    return found ? widthOfSelected(found.drawing, points) : null
  })
  const none = points.size === 0
  const act = (label: string, Icon: typeof Link2, run: () => void, disabled = none): ReactNode => (
    <IconButton key={label} label={label} disabled={disabled} onClick={run} className="size-7!">
      <Icon size={15} />
    </IconButton>
  )
  return (
    <>
      <Segments
        label="What dragging a point does"
        value={mode}
        options={[
          { value: 'move', label: 'Move' },
          { value: 'thickness', label: 'Thickness' },
        ]}
        onChange={(pointMode) => useTouch.of(editor).setState({ pointMode })}
      />
      <span className="num px-1 text-xs whitespace-nowrap text-quiet" data-testid="point-count">
        {counted(points.size, 'point')}
      </span>
      {act('Make corners', Diamond, () => makeCorners(editor))}
      {act('Make curves', Spline, () => makeCurves(sure(view.host)))}
      {act('Join two points', Link2, () => joinSelected(sure(view.host)), points.size !== 2)}
      {act('Hide or show the stretches after them', EyeOff, () => hideSelected(editor))}
      {act('Delete points', Trash2, () => deleteSelected(editor))}
      <Rule />
      <AlignMenu view={view} canAlign={points.size >= 2} />
      <Rule />
      <SmallNumber
        label="Thickness"
        unit="%"
        max={1000}
        value={Math.round(100 * (share ?? 1))}
        onChange={(v) => thickenSelected(editor, v / 100)}
      />
      <button
        type="button"
        className="rounded-lg px-2 text-xs leading-7 font-semibold whitespace-nowrap hover:bg-tint"
        onClick={() => taperSelected(editor)}
      >
        Taper
      </button>
    </>
  )
}

/** Edges and middles that points are aligned by, and flips of all of them. */
function AlignMenu({ view, canAlign }: { view: StageView; canAlign: boolean }) {
  const entries = [
    ...ALIGNMENTS.map(({ to, label, icon }) => ({ label, icon, isOff: !canAlign, run: () => alignSelected(sure(view.host), to) })),
    { label: 'Flip sideways', icon: FlipHorizontal2, isOff: false, run: () => flipSelected(sure(view.host), 'x') },
    { label: 'Flip upside down', icon: FlipVertical2, isOff: false, run: () => flipSelected(sure(view.host), 'y') },
  ]
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="flex h-7 items-center gap-1 rounded-lg px-2 text-xs font-semibold whitespace-nowrap hover:bg-tint">
        Align <ChevronDown size={13} className="text-quiet" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} sideOffset={6}>
          {entries.map(({ label, icon: Icon, isOff, run }) => (
            <DropdownMenu.Item key={label} disabled={isOff} onSelect={run} className={`${MENU_ITEM} data-[disabled]:opacity-45`}>
              <Icon size={15} className="text-quiet" /> {label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

const FALLOFFS: readonly { readonly value: Falloff; readonly label: string }[] = [
  { value: 'smooth', label: 'Smooth' },
  { value: 'linear', label: 'Straight' },
  { value: 'sharp', label: 'Sharp' },
  { value: 'even', label: 'Even' },
]

function PullSettings() {
  const editor = useEditor()
  const radius = useTouch((s) => s.radius)
  const falloff = useTouch((s) => s.falloff)
  return (
    <>
      <SmallNumber
        label="Reach"
        unit="px"
        max={2000}
        value={radius}
        onChange={(v) => useTouch.of(editor).setState({ radius: Math.max(4, v) })}
      />
      <Segments
        label="How the pull fades"
        value={falloff}
        options={FALLOFFS}
        onChange={(v) => useTouch.of(editor).setState({ falloff: v })}
      />
    </>
  )
}

function FreehandSettings() {
  const editor = useEditor()
  const tolerance = useTouch((s) => s.tolerance)
  const closes = useTouch((s) => s.closes)
  return (
    <>
      <SmallNumber
        label="Smoothing"
        max={20}
        value={tolerance}
        onChange={(v) => useTouch.of(editor).setState({ tolerance: Math.max(0.5, v) })}
      />
      <label className="flex items-center gap-1.5 px-1 text-xs whitespace-nowrap">
        <Box small checked={closes} onChange={(on) => useTouch.of(editor).setState({ closes: on })} />
        Close
      </label>
      <Rule />
    </>
  )
}

function FigureSettings() {
  const editor = useEditor()
  const figure = useTouch((s) => s.figure)
  return (
    <>
      <Segments
        label="Which outline"
        value={figure}
        options={[
          { value: 'oval', label: 'Oval' },
          { value: 'box', label: 'Box' },
        ]}
        onChange={(v) => useTouch.of(editor).setState({ figure: v })}
      />
      <Rule />
    </>
  )
}

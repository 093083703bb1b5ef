/** The stage: canvases, hint line, zoom and toolbelt. Drawing happens outside of React. */
import { useEffect, useRef, useState, type RefObject } from 'react'
import { isRestShownIn, useSession, useTool } from '../editor/session'
import { connectPointer } from '../stage/pointer'
import { StageView } from '../stage/stageView'
import { EmptyStage } from './EmptyStage'
import { Toolbelt } from './Toolbelt'
import { FEATURES } from '../features/features'
import { TOOLBELTS, toolOf } from './tools'
import type { ToolHost } from '../stage/tool'
import { ZoomPill } from './ZoomPill'
import { HeldKeys } from './HeldKeys'
import { lyingAt, selectLying, StageMenu, type OpenedAt } from './StageMenu'
import { StageViewContext } from '../stage/StageBar'
import { toCanvas } from '../stage/camera'
import type { ActionContext } from '../panels/action'
import { useEditor, type Editor } from '../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

const MARKS = FEATURES.flatMap((f) => f.marks ?? [])
const GHOSTS = FEATURES.flatMap((f) => f.ghosts ?? [])
const LENSES = FEATURES.flatMap((f) => f.lens ?? [])
const BARS = FEATURES.flatMap((f) => f.bars ?? [])
const toolInHand = (editor: Editor) => toolOf(editor, useSession.of(editor).getState().bench)

export function Stage({ view, context }: { view: RefObject<StageView | null>; context: ActionContext }) {
  const editor = useEditor()
  const frame = useRef<HTMLDivElement>(null)
  const art = useRef<HTMLCanvasElement>(null)
  const overlay = useRef<HTMLCanvasElement>(null)
  const [state, setState] = useState<'loading' | 'ready' | { failure: string }>('loading')
  const [menu, setMenu] = useState<OpenedAt | null>(null)
  const [made, setMade] = useState<StageView | null>(null)

  useEffect(() => {
    const stage = new StageView(editor, sure(art.current), sure(overlay.current), (failure) => setState(failure ? { failure } : 'ready'), {
      marks: MARKS,
      ghosts: GHOSTS,
      lens: (of) => {
        for (const lens of LENSES) {
          const seen = lens(of)
          if (seen) return seen
        }
        return null
      },
      tool: () => toolInHand(editor),
    })
    view.current = stage
    const host: ToolHost = {
      editor,
      get camera() {
        return stage.camera
      },
      get model() {
        return sure(stage.model())
      },
      px: (screen) => screen / stage.camera.zoom,
      redraw: () => stage.invalidate(false),
      repaint: () => stage.invalidate(true),
    }
    stage.host = host
    const resize = new ResizeObserver(([entry]) => stage.resize(sure(entry).contentRect.width, sure(entry).contentRect.height))
    // Counted in device pixels, so that a denser screen or a zoomed page is noticed, too.
    try {
      resize.observe(sure(frame.current), { box: 'device-pixel-content-box' })
    } catch {
      resize.observe(sure(frame.current))
    }
    const disconnect = connectPointer(sure(frame.current), stage, host, {
      tool: () => toolInHand(editor),
      setCursor: (cursor) => {
        if (frame.current) frame.current.style.cursor = cursor
      },
      openMenu: (at) => {
        const lying = lyingAt(host, toCanvas(stage.camera, at))
        selectLying(editor, lying)
        // In the mirror the stage's right is on the left.
        setMenu({ at: useSession.of(editor).getState().mirrored ? { ...at, x: stage.size.width - at.x } : at, lying })
      },
    })
    setMade(stage)
    return () => {
      resize.disconnect()
      disconnect()
      stage.dispose()
      view.current = null
    }
  }, [editor, view])

  const mirrored = useSession((s) => s.mirrored)
  const failure = typeof state === 'object' ? state.failure : null
  return (
    <div
      ref={frame}
      data-testid="stage-view"
      className="stage-body relative min-h-0 flex-1 touch-none overflow-hidden rounded-2xl"
      aria-label="Stage"
      role="application"
      tabIndex={-1}
    >
      <canvas
        ref={art}
        className={`pointer-events-none absolute inset-0 h-full w-full ${mirrored ? '-scale-x-100' : ''}`}
        data-testid="art"
      />
      <canvas ref={overlay} className={`absolute inset-0 h-full w-full ${mirrored ? '-scale-x-100' : ''}`} data-testid="overlay" />
      {mirrored && <p className="pointer-events-none absolute top-3 right-4 rounded-full bg-brass-soft px-2.5 text-xs/5">Mirrored</p>}
      <HintLine />
      <EmptyStage />
      {state === 'loading' && <p className="absolute inset-x-0 top-1/2 text-center text-quiet">Laying out the puppet…</p>}
      {failure && (
        <p role="alert" className="absolute inset-x-0 top-1/2 text-center text-cord">
          {failure}
        </p>
      )}
      {made && <ZoomPill view={made} />}
      <HeldKeys />
      {menu && <StageMenu key={`${menu.at.x} ${menu.at.y}`} opened={menu} onClose={() => setMenu(null)} context={context} />}
      {made && (
        <StageViewContext value={made}>
          {BARS.map((Bar, k) => (
            <Bar key={k} view={made} />
          ))}
        </StageViewContext>
      )}
      <Toolbelt />
    </div>
  )
}

/** What a click will do, and in Bones that the rest is on show. */
function HintLine() {
  const editor = useEditor()
  const bench = useSession((s) => s.bench)
  const belt = TOOLBELTS[bench]
  const id = useTool(bench, nth(belt, 0).id)
  const tool = belt.find((t) => t.id === id) ?? nth(belt, 0)
  const isRest = useSession(isRestShownIn)
  // What the hint of the moment goes by.
  useSession((s) => s.selection)
  const [, look] = useState(0)
  useEffect(() => tool.watch?.(editor, () => look((n) => n + 1)), [editor, tool])
  const hint = tool.hintNow?.(editor) ?? tool.hint
  return (
    <div className="pointer-events-none absolute top-3.5 right-4 left-4 flex h-5 flex-wrap gap-x-4 gap-y-2 overflow-hidden text-xs whitespace-nowrap [text-shadow:0_0_2px_var(--stage),0_0_4px_var(--stage),0_0_7px_var(--stage)]">
      {isRest && <span className="rounded-full bg-ink px-2 font-semibold text-panel [text-shadow:none]">Rest</span>}
      {hint.map(([stress, rest]) => (
        <span key={stress}>
          <b className="font-[650]">{stress}</b> {rest}
        </span>
      ))}
    </div>
  )
}

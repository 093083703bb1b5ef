/** The stage: canvases, hint line, zoom and toolbelt. Drawing happens outside of React. */
import { useEffect, useRef, useState, type RefObject } from 'react'
import { StageControls } from '../controls/StageControls'
import { usePuppet } from '../state/document'
import { isRestShown, useSession, useTool } from '../state/session'
import { TouchBar } from '../touch/TouchBar'
import { useDrawBones } from '../state/drawBones'
import { useNails } from '../state/nails'
import { useWeigh } from '../state/weigh'
import { WeighBar } from './WeighBar'
import { ViewPick } from '../views/ViewPick'
import { CutBar } from './CutBar'
import { connectPointer } from './pointer'
import { StageView } from './stageView'
import { DeformBar } from './DeformBar'
import { DrawBonesBar } from './DrawBonesBar'
import { Toolbelt } from './Toolbelt'
import { TOOLBELTS } from './tools/tools'
import type { ToolHost } from './tools/tool'
import { ZoomPill } from './ZoomPill'

export function Stage({ view }: { view: RefObject<StageView | null> }) {
  const frame = useRef<HTMLDivElement>(null)
  const art = useRef<HTMLCanvasElement>(null)
  const overlay = useRef<HTMLCanvasElement>(null)
  const [state, setState] = useState<'loading' | 'ready' | { failure: string }>('loading')
  const [made, setMade] = useState<StageView | null>(null)

  useEffect(() => {
    const stage = new StageView(art.current!, overlay.current!, (failure) => setState(failure ? { failure } : 'ready'))
    view.current = stage
    const host: ToolHost = {
      get camera() {
        return stage.camera
      },
      get model() {
        return stage.model()!
      },
      px: (screen) => screen / stage.camera.zoom,
      redraw: () => stage.invalidate(false),
      repaint: () => stage.invalidate(true),
    }
    stage.host = host
    const resize = new ResizeObserver(([entry]) => stage.resize(entry!.contentRect.width, entry!.contentRect.height))
    // Counted in device pixels, so that a denser screen or a zoomed page is noticed, too.
    try {
      resize.observe(frame.current!, { box: 'device-pixel-content-box' })
    } catch {
      resize.observe(frame.current!)
    }
    const disconnect = connectPointer(frame.current!, stage, host, (cursor) => {
      if (frame.current) frame.current.style.cursor = cursor
    })
    setMade(stage)
    return () => {
      resize.disconnect()
      disconnect()
      stage.dispose()
      view.current = null
    }
  }, [view])

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
      {made && <StageControls view={made} />}
      {made && <ZoomPill view={made} />}
      <ViewPick />
      <CutBar />
      {made && <TouchBar view={made} />}
      <WeighBar />
      <DeformBar />
      <DrawBonesBar />
      <Toolbelt />
    </div>
  )
}

/** What a click will do, and in Bones that the rest is on show. */
function HintLine() {
  const bench = useSession((s) => s.bench)
  const belt = TOOLBELTS[bench]
  const id = useTool(bench, belt[0]!.id)
  const tool = belt.find((t) => t.id === id) ?? belt[0]!
  const isRest = useSession(isRestShown)
  // What the hint of the moment goes by.
  useSession((s) => s.selection)
  useWeigh((s) => s.way)
  useNails((s) => s.nails)
  useDrawBones((s) => s.way)
  const hint = tool.hintNow?.() ?? tool.hint
  return (
    <div className="pointer-events-none absolute top-3.5 right-4 left-4 flex gap-4 overflow-hidden text-xs whitespace-nowrap [text-shadow:0_0_2px_var(--stage),0_0_4px_var(--stage),0_0_7px_var(--stage)]">
      {isRest && <span className="rounded-full bg-ink px-2 font-semibold text-panel">Rest</span>}
      {hint.map(([stress, rest]) => (
        <span key={stress}>
          <b className="font-[650]">{stress}</b> {rest}
        </span>
      ))}
    </div>
  )
}

function EmptyStage() {
  const isEmpty = usePuppet((p) => Object.keys(p.drawings).length + Object.keys(p.pictures).length === 0)
  if (!isEmpty) return null
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center pb-16">
      <div className="max-w-xs text-center">
        <h2 className="font-display text-[26px]/8 font-semibold">An empty stage</h2>
        <p className="mt-2 text-quiet">
          Drop layered artwork here: SVG, OpenRaster, PSD or pictures. Layers become parts and keep their names and places.
        </p>
      </div>
    </div>
  )
}

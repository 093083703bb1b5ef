/**
 * What is on the stage, outside of React: two canvases, a camera and a frame that is drawn when something changed.
 * The artwork is drawn by Skia, bones and handles over it in a plain 2D canvas.
 */
import type { CanvasKit } from 'canvaskit-wasm'
import type { Puppet } from '@marionette/core/puppet/schema'
import { Painter } from '@marionette/render/painter'
import { GhostPainter, type Ghosts } from './ghosts'
import { assetSource, onAsset } from '../editor/assets'
import { useDocument } from '../editor/document'
import type { Editor } from '../editor/editor'
import { isRestShown, isRestShownIn, useSession } from '../editor/session'
import { liveTime, onLive } from '../editor/live'
import { useLiving } from '../editor/living'
import { hearsSpeed, useHeldSpeeds } from '../editor/speeds'
import { stageModel, type StageModel } from '../editor/stageModel'
import { partsBelow } from '@marionette/core/parts/tree'
import { frameBounds } from '@marionette/core/puppet/probe'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import { lookThrough, pictureBox, type LensNow } from './lens'
import { downBelowBar, frameRegion, panBy, toCanvas, toScreen, type Camera } from './camera'
import { drawOverlay } from './overlay'
import { loadSkia } from '../skia/loadSkia'
import { isSoftwareGl, StageSurface } from './skia'
import type { Tool, ToolHost } from './tool'
import type { Mark } from './marks'
import { LiveMotion } from '@marionette/core/playing/liveMotion'
import { movesItself } from '@marionette/core/playing/selfMotion'
import { MeasuredMotion } from '@marionette/core/simulation/speeds'
import { currentTheme } from './theme'
import { sure } from '@marionette/core/kernel/sure'

/** Artwork is drawn coarser while something moves, if drawing it whole takes longer than this. */
const SLOW_DRAW_MS = 14
const COARSE = 0.5
const SETTLE_MS = 140
/** A picture that takes this long is shifted and stretched as it is while the camera moves, and drawn anew afterwards. */
const HEAVY_DRAW_MS = 90

/** The part that is the head, by its role or its name; null where none is. */
function headOf(puppet: Puppet): string | null {
  const all = Object.values(puppet.parts).filter((p) => p.id !== puppet.root)
  return (all.find((p) => p.role === 'head') ?? all.find((p) => /^(head|face)\b/i.test(p.name)))?.id ?? null
}

/** Whether a puppet has nothing to show. */
const isBare = (puppet: Puppet): boolean => Object.keys(puppet.drawings).length + Object.keys(puppet.pictures).length === 0

/** What lies on the stage besides the artwork. */
export interface Equipment {
  readonly marks: readonly Mark[]
  /** Other moments that are drawn under the one that is looked at. */
  readonly ghosts: readonly Ghosts[]
  /** What it is seen through instead of the usual view. */
  readonly lens: LensNow
  /** The tool in hand. */
  readonly tool: () => Tool
}

export class StageView {
  camera: Camera = { zoom: 1, x: 0, y: 0 }
  private width = 0
  private height = 0
  private ratio = 1
  private framed = false
  /** Whether all is framed as it was by itself, and nobody has moved the camera since. */
  private isFramedWhole = false
  /** The height of the bar over the stage, and the view before it made room for that bar. */
  private barred = 0
  private lowered: { readonly from: Camera; readonly to: Camera } | null = null
  /** `content` means that the picture itself is another one, not only seen from elsewhere. */
  private dirty = { art: true, content: true, overlay: true }
  private drawn = { camera: this.camera, took: 0 }
  private frameRequest = 0
  private skia: { CK: CanvasKit; surface: StageSurface; painter: Painter; ghosts: GhostPainter } | null = null
  private coarse = false
  private readonly motion = new MeasuredMotion()
  private readonly moving = new LiveMotion()
  private isFollowing = false
  private movedAt = -Infinity
  private settle: ReturnType<typeof setTimeout> | undefined
  private readonly cleanUps: (() => void)[] = []
  private readonly listeners = new Set<() => void>()
  /** Answers whether the tool draws something of its own. */
  host: ToolHost | null = null

  constructor(
    readonly editor: Editor,
    private readonly art: HTMLCanvasElement,
    private readonly overlay: HTMLCanvasElement,
    private readonly onReady: (failure: string | null) => void,
    private readonly equipment: Equipment,
  ) {
    this.cleanUps.push(
      useDocument.of(editor).subscribe((s, before) => {
        if (s.puppet === before.puppet) return
        this.invalidate(true)
        if (s.puppet && before.puppet && isBare(before.puppet) && !isBare(s.puppet) && !this.isAllInView()) this.frameAll()
      }),
      onAsset(editor, () => {
        // What is painted with pictures is made anew with those that are here now.
        this.skia?.painter.refresh()
        this.invalidate(true)
      }),
      useSession.of(editor).subscribe((s, before) => {
        if (s.bench !== before.bench && this.isFramedWhole && (s.bench === 'face') !== (before.bench === 'face')) this.frameHome()
        this.invalidate(s.bench !== before.bench || s.theme !== before.theme || isRestShownIn(s) !== isRestShownIn(before))
      }),
    )
    this.cleanUps.push(
      useHeldSpeeds.of(editor).subscribe(() => this.invalidate(true)),
      useLiving.of(editor).subscribe(() => this.invalidate(true)),
      onLive(editor, () => this.invalidate(true)),
      ...this.equipment.marks.flatMap((mark) => mark.watch?.(editor, () => this.invalidate(false)) ?? []),
    )
    const lost = (e: Event): void => e.preventDefault()
    const restored = (): void => {
      this.skia?.painter.dispose()
      this.skia?.ghosts.dispose()
      this.skia?.surface.reset()
      this.invalidate(true)
    }
    art.addEventListener('webglcontextlost', lost)
    art.addEventListener('webglcontextrestored', restored)
    this.cleanUps.push(() => {
      art.removeEventListener('webglcontextlost', lost)
      art.removeEventListener('webglcontextrestored', restored)
    })
    void this.start()
  }

  private async start(): Promise<void> {
    try {
      const CK = await loadSkia()
      this.skia = {
        CK,
        surface: new StageSurface(CK, this.art),
        painter: new Painter(CK, (hash) => assetSource(this.editor, hash)),
        ghosts: new GhostPainter(CK, this.editor),
      }
      this.onReady(null)
      this.invalidate(true)
    } catch {
      this.onReady('The drawing module could not be loaded. Reload the page to try again.')
    }
  }

  dispose(): void {
    cancelAnimationFrame(this.frameRequest)
    clearTimeout(this.settle)
    for (const cleanUp of this.cleanUps) cleanUp()
    this.skia?.painter.dispose()
    this.skia?.ghosts.dispose()
    this.skia?.surface.dispose()
    this.skia = null
  }

  /** Called after the camera moved. */
  onCamera(listener: () => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  get size(): { width: number; height: number } {
    return { width: this.width, height: this.height }
  }

  /** The rig and frame that are on the stage: at rest in Bones, posed everywhere else. */
  model(): StageModel | null {
    const { puppet } = useDocument.of(this.editor).getState()
    return puppet && stageModel(this.editor).get(puppet, isRestShown(this.editor))
  }

  resize(width: number, height: number): void {
    const before = { width: this.width, height: this.height }
    this.width = width
    this.height = height
    this.ratio = window.devicePixelRatio || 1
    this.overlay.width = Math.round(width * this.ratio)
    this.overlay.height = Math.round(height * this.ratio)
    if (!this.framed || this.isFramedWhole) this.frameHome()
    else this.setCamera({ ...this.camera, x: this.camera.x + (width - before.width) / 2, y: this.camera.y + (height - before.height) / 2 })
    this.invalidate(true)
  }

  setCamera(camera: Camera): void {
    this.camera = camera
    this.isFramedWhole = false
    this.movedAt = performance.now()
    for (const listener of this.listeners) listener()
    this.dirty.art = true
    this.invalidate(false)
  }

  /** Frames the whole canvas, or what the puppet shows when that is more. */
  frameAll(): void {
    const { puppet } = useDocument.of(this.editor).getState()
    if (!puppet || this.width < 2) return
    this.framed = true
    const model = this.model()
    const shown = model && frameBounds(model.frame)
    const box: Bounds = shown ?? { minX: 0, minY: 0, maxX: puppet.canvas.width, maxY: puppet.canvas.height }
    this.setCamera(frameRegion(box, this.width, this.height, { barred: this.barred }))
    this.isFramedWhole = true
  }

  /** Whether all that is shown is on the stage: what was just drawn there stays where the hand left it. */
  private isAllInView(): boolean {
    const model = this.model()
    const box = model && frameBounds(model.frame)
    if (!box) return true
    const [from, to] = [toScreen(this.camera, { x: box.minX, y: box.minY }), toScreen(this.camera, { x: box.maxX, y: box.maxY })]
    return from.x >= 0 && from.y >= 0 && to.x <= this.width && to.y <= this.height
  }

  /** Frames what a bench is about: the head in Face where there is one, else all. */
  private frameHome(): void {
    const { puppet } = useDocument.of(this.editor).getState()
    const head = useSession.of(this.editor).getState().bench === 'face' && puppet ? headOf(puppet) : null
    const frame = head === null ? undefined : this.model()?.frame
    // What speaks and blinks belongs to the face wherever it hangs.
    const swaps = head === null ? [] : Object.values(sure(puppet).parts).filter((p) => p.swap !== null)
    const parts = [head, ...swaps.map((p) => p.id)].flatMap((id) => (id === null ? [] : partsBelow(sure(puppet), id)))
    const box = frame && this.width >= 2 && frameBounds(frame, new Set(parts.map((p) => p.id)))
    if (!box) return this.frameAll()
    this.framed = true
    this.setCamera(frameRegion(box, this.width, this.height, { barred: this.barred }))
    this.isFramedWhole = true
  }

  frameBox(box: Bounds): void {
    this.setCamera(frameRegion(box, this.width, this.height, { closest: 12, barred: this.barred }))
  }

  /**
   * Keeps what is shown clear of a bar over the stage: framed into the rest, or moved down, and back when the bar goes,
   * unless the view was moved in the meantime.
   *
   * @param height of the bar in CSS pixels; zero where there is none
   */
  keepClearOfBar(height: number): void {
    if (height === this.barred) return
    this.barred = height
    if (this.isFramedWhole) return this.frameHome()
    if (!this.framed) return
    const { camera } = this
    const isBack = this.lowered !== null && camera === this.lowered.to
    const from = isBack ? sure(this.lowered).from : camera
    const model = this.model()
    const box = model && frameBounds(model.frame)
    const down = box ? downBelowBar(toScreen(from, { x: 0, y: box.minY }).y, height) : 0
    if (down === 0 && !isBack) return
    this.setCamera(panBy(from, 0, down))
    this.lowered = down > 0 ? { from, to: this.camera } : null
  }

  /** Asks for a new picture: of everything, or of the overlay alone. */
  invalidate(art: boolean): void {
    this.dirty.overlay = true
    this.dirty.art ||= art
    this.dirty.content ||= art
    if (this.dirty.art) this.art.dataset['picture'] = 'due'
    if (this.frameRequest === 0) this.frameRequest = requestAnimationFrame(() => this.draw())
  }

  private draw(): void {
    this.frameRequest = 0
    let model = this.model()
    if (!model || this.width < 2) return
    const isHeld = this.holdPicture()
    const wasFollowing = this.isFollowing
    this.followMotion(model)
    // The first picture of a motion would show where it is going to end.
    if (this.isFollowing && !wasFollowing) model = this.model() ?? model
    if (this.dirty.art && this.skia && !isHeld) this.drawArt(model)
    if (this.dirty.overlay) this.drawOverlay(model)
    const art = this.dirty.art && (!this.skia || isHeld)
    this.dirty = { art, content: art && this.dirty.content, overlay: false }
    // Whether what is seen is up to date and sharp, or another or a finer picture is still to come.
    if (!this.dirty.art) this.art.dataset['picture'] = this.isFollowing ? 'moving' : this.coarse ? 'coarse' : 'sharp'
  }

  /** Bones that move have a speed, and springs swing: what answers to that is drawn until all have come to rest. */
  private followMotion(model: StageModel): void {
    const hears = hearsSpeed(model.rig.puppet)
    const isLiving = useLiving.of(this.editor).getState().isOn && model.rig.idles.length > 0
    const moves = isLiving || movesItself(model.rig)
    const isStill = isRestShown(this.editor) || !(hears || moves)
    // What plays by its time alone looks the same however one came there, and as it does on the server.
    if (isStill || liveTime(this.editor) !== null) {
      this.moving.stop()
      if (!this.isFollowing) return
      this.isFollowing = false
      stageModel(this.editor).refresh()
      requestAnimationFrame(() => this.invalidate(true))
      return
    }
    const now = performance.now() / 1000
    const isTurning = hears && this.motion.follow(model.rig, model.frame, now, useHeldSpeeds.of(this.editor).getState().held)
    const isSwinging = moves && this.moving.follow(model.rig, model.own, now, isLiving)
    if (!isTurning && !isSwinging) {
      if (!this.isFollowing) return
      this.isFollowing = false
    } else this.isFollowing = true
    stageModel(this.editor).refresh({
      springs: null,
      ...(isSwinging ? this.moving.shown : null),
      speeds: hears ? this.motion.speeds : null,
    })
    requestAnimationFrame(() => this.invalidate(true))
  }

  /** While the camera moves over a heavy picture, the one that is there is shifted and stretched; tells whether that was done. */
  private holdPicture(): boolean {
    const isMoving = performance.now() - this.movedAt < SETTLE_MS
    if (
      !isMoving ||
      useSession.of(this.editor).getState().mirrored ||
      this.dirty.content ||
      !this.dirty.art ||
      this.drawn.took < HEAVY_DRAW_MS
    )
      return false
    const from = this.drawn.camera
    const k = this.camera.zoom / from.zoom
    this.art.style.transformOrigin = '0 0'
    this.art.style.transform = `translate(${this.camera.x - k * from.x}px, ${this.camera.y - k * from.y}px) scale(${k})`
    clearTimeout(this.settle)
    this.settle = setTimeout(() => this.sharpen(), SETTLE_MS)
    return true
  }

  private drawArt(model: StageModel): void {
    this.art.style.transform = ''
    this.art.style.transformOrigin = ''
    const { surface, painter, ghosts, CK } = sure(this.skia)
    const ratio = this.ratio * (this.coarse ? COARSE : 1)
    const target = surface.get(Math.max(1, Math.round(this.width * ratio)), Math.max(1, Math.round(this.height * ratio)))
    if (!target) return this.onReady('This browser gives no surface to draw on.')
    const started = performance.now()
    const canvas = target.getCanvas()
    canvas.clear(CK.TRANSPARENT)
    canvas.save()
    const lens = this.equipment.lens(this.editor)
    const zoom = this.camera.zoom * ratio
    if (lens) lookThrough(CK, canvas, lens, this.size, ratio)
    else canvas.concat([zoom, 0, this.camera.x * ratio, 0, zoom, this.camera.y * ratio, 0, 0, 1])
    const { reference } = model.rig.puppet
    if (reference && !reference.over) painter.paintReference(canvas, reference)
    const others = isRestShown(this.editor) ? [] : this.equipment.ghosts.flatMap((of) => of(this.editor, model))
    ghosts.paint(canvas, model.rig, others, this.seenBounds())
    painter.paint(canvas, model.frame)
    if (reference?.over) painter.paintReference(canvas, reference)
    canvas.restore()
    target.flush()
    this.drawn = { camera: this.camera, took: performance.now() - started }
    this.pace(this.drawn.took)
    this.art.dataset['drawn'] = String(Number(this.art.dataset['drawn'] ?? 0) + 1)
  }

  /** Round what is seen through a lens. */
  private drawPictureFrame(
    pen: CanvasRenderingContext2D,
    at: { x: number; y: number; scale: number },
    size: { width: number; height: number },
  ): void {
    const { cord, ink } = currentTheme(this.editor)
    const [width, height] = [size.width * at.scale, size.height * at.scale]
    pen.fillStyle = ink
    pen.globalAlpha = 0.12
    pen.beginPath()
    pen.rect(0, 0, this.width, this.height)
    pen.rect(at.x, at.y, width, height)
    pen.fill('evenodd')
    pen.globalAlpha = 1
    pen.strokeStyle = cord
    pen.lineWidth = 2
    pen.strokeRect(at.x, at.y, width, height)
  }

  /** What of the canvas is on the stage. */
  private seenBounds(): Bounds {
    const from = toCanvas(this.camera, { x: 0, y: 0 })
    const to = toCanvas(this.camera, { x: this.width, y: this.height })
    return { minX: from.x, minY: from.y, maxX: to.x, maxY: to.y }
  }

  /** While something moves and a picture takes long, the next ones are drawn coarser; once it rests, one in full. */
  private pace(took: number): void {
    const now = performance.now()
    const isMoving = useDocument.of(this.editor).getState().gesture !== null || now - this.movedAt < SETTLE_MS
    clearTimeout(this.settle)
    if (isMoving && took > SLOW_DRAW_MS) this.coarse = true
    // A coarse picture is always followed by a sharp one, also when the movement ended while it was drawn.
    if (this.coarse) this.settle = setTimeout(() => this.sharpen(), SETTLE_MS)
  }

  private sharpen(): void {
    if (useDocument.of(this.editor).getState().gesture !== null) {
      this.settle = setTimeout(() => this.sharpen(), SETTLE_MS)
      return
    }
    this.coarse = false
    this.invalidate(true)
  }

  private drawOverlay(model: StageModel): void {
    const context = this.overlay.getContext('2d', { willReadFrequently: isSoftwareGl() })
    if (!context) return
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.clearRect(0, 0, this.overlay.width, this.overlay.height)
    context.setTransform(this.ratio, 0, 0, this.ratio, 0, 0)
    const lens = this.equipment.lens(this.editor)
    if (lens) return this.drawPictureFrame(context, pictureBox(lens, this.size), lens)
    drawOverlay(this.editor, context, this.camera, model, this.equipment.marks)
    for (const mark of this.equipment.marks)
      if (mark.layer === 'last') mark.draw(this.editor, context, this.camera, model, currentTheme(this.editor), false)
    if (this.host) this.equipment.tool().draw?.(context, this.host)
    this.overlay.dataset['camera'] = `${this.camera.zoom} ${this.camera.x} ${this.camera.y}`
  }
}

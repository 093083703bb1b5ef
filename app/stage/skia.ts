/** Skia on the stage: drawing on the GPU where there is one. */
import type { CanvasKit, GrDirectContext, Surface } from 'canvaskit-wasm'
import { once } from '../ui/once'

/** Whether WebGL is missing or itself emulated on the processor: then drawing there directly is smoother and no slower. */
export const isSoftwareGl: () => boolean = once(() => {
  const gl = document.createElement('canvas').getContext('webgl2')
  const info = gl?.getExtension('WEBGL_debug_renderer_info')
  const renderer = gl && info ? String(gl.getParameter(info.UNMASKED_RENDERER_WEBGL)) : ''
  const software = !gl || /swiftshader|llvmpipe|softpipe|software|basic render/i.test(renderer)
  gl?.getExtension('WEBGL_lose_context')?.loseContext()
  return software
})

/** A surface bound to a canvas element, made again when the size or the GPU context changes. */
export class StageSurface {
  private context: GrDirectContext | null = null
  private surface: Surface | null = null
  private software = isSoftwareGl()

  constructor(
    private readonly CK: CanvasKit,
    private readonly element: HTMLCanvasElement,
  ) {}

  /** The surface for a size in device pixels; null where none can be made. */
  get(width: number, height: number): Surface | null {
    if (this.surface && this.element.width === width && this.element.height === height) return this.surface
    this.surface?.delete()
    this.element.width = width
    this.element.height = height
    this.surface = this.makeGpu(width, height) ?? this.makeSoftware()
    return this.surface
  }

  /** Forgets a lost GPU context; the next `get` makes a new one. */
  reset(): void {
    this.surface?.delete()
    this.context?.delete()
    this.surface = null
    this.context = null
  }

  dispose(): void {
    this.reset()
  }

  private makeGpu(width: number, height: number): Surface | null {
    if (this.software) return null
    const { CK } = this
    if (!this.context) {
      const handle = CK.GetWebGLContext(this.element, {
        antialias: 1,
        alpha: 1,
        stencil: 8,
        premultipliedAlpha: 1,
        preserveDrawingBuffer: 0,
        majorVersion: 2,
      })
      this.context = handle ? CK.MakeWebGLContext(handle) : null
    }
    return this.context && CK.MakeOnScreenGLSurface(this.context, width, height, CK.ColorSpace.SRGB)
  }

  private makeSoftware(): Surface | null {
    this.software = true
    // Claims the canvas for the processor before Skia asks for its context.
    this.element.getContext('2d', { willReadFrequently: true })
    return this.CK.MakeSWCanvasSurface(this.element)
  }
}

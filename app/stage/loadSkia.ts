/** Loads Skia beside the interface, once for each page or worker. */
import type { CanvasKit } from 'canvaskit-wasm'
import wasmUrl from 'canvaskit-wasm/bin/canvaskit.wasm?url'

let loading: Promise<CanvasKit> | null = null

export function loadSkia(): Promise<CanvasKit> {
  loading ??= import('canvaskit-wasm').then((module) => {
    const init = module.default as unknown as (o: object) => Promise<CanvasKit>
    return init({ locateFile: () => wasmUrl })
  })
  return loading
}

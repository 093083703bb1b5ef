/** Loads Skia beside the interface, once for each page or worker. */
import type { CanvasKit } from 'canvaskit-wasm'
import { once } from '../ui/once'
import wasmUrl from 'canvaskit-wasm/bin/canvaskit.wasm?url'

export const loadSkia: () => Promise<CanvasKit> = once(async () => {
  const module = await import('canvaskit-wasm')
  const init = module.default as unknown as (o: object) => Promise<CanvasKit>
  return init({ locateFile: () => wasmUrl })
})

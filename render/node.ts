/** Skia for Node: the wasm module is read from the installed package. */
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import CanvasKitInit, { type CanvasKit } from 'canvaskit-wasm'

let loading: Promise<CanvasKit> | null = null

/** Loads the module once per process. */
export function loadCanvasKit(): Promise<CanvasKit> {
  const folder = dirname(createRequire(import.meta.url).resolve('canvaskit-wasm/bin/canvaskit.js'))
  loading ??= (CanvasKitInit as unknown as (o: object) => Promise<CanvasKit>)({ locateFile: (file: string) => join(folder, file) })
  return loading
}

/** Raster pictures of the open puppet: fetched once by their hash, and sent to the server before what is painted with them. */
import type { AssetSource } from '@marionette/render/textures'
import type { Puppet } from '@marionette/core/puppet/schema'
import { assetsOf } from '@marionette/core/parts/tree'
import type { HistoryEntry } from '@marionette/core/puppet/edit'
import type { History } from '@marionette/core/puppet/history'
import { fetchAsset, needAssets, sendAsset } from '../storage/api'
import { editorState, editorStore, type Editor } from './editor'

interface Own {
  known: Map<string, Uint8Array<ArrayBufferLike>>
  asked: Set<string>
  telling: ReturnType<typeof setTimeout> | undefined
}

const stateOf = editorState((): Own => ({ known: new Map<string, Uint8Array>(), asked: new Set<string>(), telling: undefined }))

const useArrived = editorStore<{ arrivals: number }>(() => ({ arrivals: 0 }))

/** Called when pictures have arrived that were asked for. */
export const onAsset = (editor: Editor, listener: () => void): (() => void) => useArrived.of(editor).subscribe(() => listener())

/** How often pictures have arrived: what is drawn with them is drawn again when it changes. */
export const useArrivals = (): number => useArrived((s) => s.arrivals)

/** Pictures come in many at a time; listeners hear of all that came within a moment. */
function arrived(editor: Editor): void {
  const own = stateOf(editor)
  own.telling ??= setTimeout(() => {
    own.telling = undefined
    useArrived.of(editor).setState((s) => ({ arrivals: s.arrivals + 1 }))
  }, 60)
}

/** Bytes of a picture; while they are not here yet they are fetched, and listeners hear of it. */
export function assetSource(editor: Editor, hash: string): ReturnType<AssetSource> {
  const own = stateOf(editor)
  const bytes = own.known.get(hash)
  if (!bytes && !own.asked.has(hash)) {
    own.asked.add(hash)
    void fetchAsset(hash).then(
      (fetched) => {
        own.known.set(hash, fetched)
        arrived(editor)
      },
      // Without the picture its place stays empty; it is asked for again when the puppet is opened anew.
      () => own.asked.delete(hash),
    )
  }
  return bytes
}

/** All of some pictures, fetched where they are missing. Throws RequestError. */
export async function loadAssets(editor: Editor, hashes: Iterable<string>): Promise<Map<string, Uint8Array>> {
  const own = stateOf(editor)
  const out = new Map<string, Uint8Array>()
  for (const hash of hashes) {
    const bytes = own.known.get(hash) ?? (await fetchAsset(hash))
    own.known.set(hash, bytes)
    out.set(hash, bytes)
  }
  return out
}

/** Gives pictures to the library; only then may a puppet be saved that is painted with them. Throws RequestError. */
export async function sendAssets(editor: Editor, assets: ReadonlyMap<string, Uint8Array>): Promise<void> {
  const own = stateOf(editor)
  for (const [hash, bytes] of assets) {
    own.known.set(hash, bytes)
    await sendAsset(hash, bytes)
  }
}

const HASH = /(?<![0-9a-f])[0-9a-f]{64}(?![0-9a-f])/g
const inChanges = new WeakMap<HistoryEntry, readonly string[]>()

/** Pictures that a change could bring back. */
function hashesOf(change: HistoryEntry): readonly string[] {
  let known = inChanges.get(change)
  if (!known) inChanges.set(change, (known = JSON.stringify([change.patches, change.inverse]).match(HASH) ?? []))
  return known
}

/** Tells the library which pictures the open puppet needs, those that undo could bring back included; sends those that it lacks. */
export async function keepNeeded(editor: Editor, history: History | null): Promise<void> {
  if (!history) return
  const hashes = new Set([...assetsOf(history.puppet), ...history.changes.flatMap(hashesOf)])
  if (hashes.size === 0) return
  await needAssets([...hashes])
    .then((missing) => sendKnown(editor, missing))
    .catch(() => undefined)
}

/** Sends those pictures of a puppet that the library lacks, as far as they are here. */
export const sendMissing = async (editor: Editor, puppet: Puppet): Promise<void> =>
  sendKnown(editor, await needAssets([...assetsOf(puppet)]))

async function sendKnown(editor: Editor, hashes: readonly string[]): Promise<void> {
  const own = stateOf(editor)
  for (const hash of hashes) {
    const bytes = own.known.get(hash)
    if (bytes) await sendAsset(hash, bytes)
  }
}

/** Raster pictures of the open puppet: fetched once by their hash, and sent to the server before what is painted with them. */
import { useSyncExternalStore } from 'react'
import type { AssetSource } from '@marionette/render/textures'
import type { Puppet } from '@marionette/core/document/schema'
import { assetsOf } from '@marionette/core/document/tree'
import type { Change } from '@marionette/core/edit/command'
import type { History } from '@marionette/core/edit/history'
import { fetchAsset, needAssets, sendAsset } from './api'

const known = new Map<string, Uint8Array>()
const asked = new Set<string>()
const listeners = new Set<() => void>()

/** Called when pictures have arrived that were asked for. */
export function onAsset(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** How often pictures have arrived: what is drawn with them is drawn again when it changes. */
let arrivals = 0
export const useArrivals = (): number => useSyncExternalStore(onAsset, () => arrivals)

let telling: ReturnType<typeof setTimeout> | undefined

/** Pictures come in many at a time; listeners hear of all that came within a moment. */
function arrived(): void {
  telling ??= setTimeout(() => {
    telling = undefined
    arrivals++
    for (const listener of listeners) listener()
  }, 60)
}

/** Bytes of a picture; while they are not here yet they are fetched, and listeners hear of it. */
export const assetSource: AssetSource = (hash) => {
  const bytes = known.get(hash)
  if (!bytes && !asked.has(hash)) {
    asked.add(hash)
    void fetchAsset(hash).then(
      (fetched) => {
        known.set(hash, fetched)
        arrived()
      },
      // Without the picture its place stays empty; it is asked for again when the puppet is opened anew.
      () => asked.delete(hash),
    )
  }
  return bytes
}

/** All of some pictures, fetched where they are missing. Throws RequestError. */
export async function loadAssets(hashes: Iterable<string>): Promise<Map<string, Uint8Array>> {
  const out = new Map<string, Uint8Array>()
  for (const hash of hashes) {
    const bytes = known.get(hash) ?? (await fetchAsset(hash))
    known.set(hash, bytes)
    out.set(hash, bytes)
  }
  return out
}

/** Gives pictures to the library; only then may a puppet be saved that is painted with them. Throws RequestError. */
export async function sendAssets(assets: ReadonlyMap<string, Uint8Array>): Promise<void> {
  for (const [hash, bytes] of assets) {
    known.set(hash, bytes)
    await sendAsset(hash, bytes)
  }
}

const HASH = /(?<![0-9a-f])[0-9a-f]{64}(?![0-9a-f])/g
const inChanges = new WeakMap<Change, readonly string[]>()

/** Pictures that a change could bring back. */
function hashesOf(change: Change): readonly string[] {
  let known = inChanges.get(change)
  if (!known) inChanges.set(change, (known = JSON.stringify([change.patches, change.inverse]).match(HASH) ?? []))
  return known
}

/** Tells the library which pictures the open puppet needs, those that undo could bring back included; sends those that it lacks. */
export async function keepNeeded(history: History | null): Promise<void> {
  if (!history) return
  const hashes = new Set([...assetsOf(history.puppet), ...history.changes.flatMap(hashesOf)])
  if (hashes.size === 0) return
  await needAssets([...hashes])
    .then((missing) => sendKnown(missing))
    .catch(() => undefined)
}

/** Sends those pictures of a puppet that the library lacks, as far as they are here. */
export const sendMissing = async (puppet: Puppet): Promise<void> => sendKnown(await needAssets([...assetsOf(puppet)]))

async function sendKnown(hashes: readonly string[]): Promise<void> {
  for (const hash of hashes) {
    const bytes = known.get(hash)
    if (bytes) await sendAsset(hash, bytes)
  }
}

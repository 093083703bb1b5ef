/** A group as one picture: made at a chosen resolution, and taken back. */
import { useRef, useState } from 'react'
import { toast } from 'sonner'
import type { Part } from '@marionette/core/document/schema'
import { assetsOfParts, partsBelow } from '@marionette/core/document/tree'
import { mergeGroup, unmergeGroup } from '@marionette/core/edit/artwork'
import { edit } from '@marionette/core/edit/command'
import { loadAssets, sendAssets } from '../state/assets'
import { openPuppet, perform, usePuppet } from '../state/document'
import { Button } from '../ui/Button'
import { Segments } from '../ui/Segments'
import { Cancelled, mergeInWorker } from '../workers/client'
import { Group } from './Group'

const SCALES = [
  { value: '0.5', label: 'Half' },
  { value: '1', label: 'Full' },
  { value: '2', label: 'Double' },
] as const

export function MergeGroup({ part }: { part: Part }) {
  const [scale, setScale] = useState<(typeof SCALES)[number]['value']>('1')
  const [busy, setBusy] = useState(false)
  const abort = useRef<AbortController | null>(null)
  const picture = usePuppet((p) => (part.merged === null ? undefined : p.pictures[part.merged]))
  const merge = async (): Promise<void> => {
    const puppet = openPuppet()
    abort.current = new AbortController()
    setBusy(true)
    try {
      const assets = await loadAssets(assetsOfParts(puppet, [part.id]))
      const merged = await mergeInWorker(puppet, part.id, assets, Number(scale), abort.current.signal)
      await sendAssets(new Map([[merged.picture.asset, merged.png]]))
      perform([edit(mergeGroup, { part: part.id, picture: merged.picture })], `Merge ${part.name}`)
    } catch (error) {
      if (!(error instanceof Cancelled)) toast.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  const inside = partsBelow(openPuppet(), part.id).length - 1
  if (picture)
    return (
      <Group id="merge" title="Merged to one picture">
        <p className="text-xs text-quiet">
          {picture.width} × {picture.height} px in place of {inside} parts, which are kept.
        </p>
        <Button
          small
          className="mt-2"
          onClick={() => perform([edit(unmergeGroup, { part: part.id })], `Take merging of ${part.name} back`)}
        >
          Take merging back
        </Button>
      </Group>
    )
  return (
    <Group id="merge" title="Merge to one picture">
      <Segments label="Resolution" value={scale} options={SCALES} onChange={setScale} />
      <p className="mt-2 text-xs text-quiet">
        Lighter, if none of the {inside} parts in it has to move by itself. They are kept and come back.
      </p>
      <div className="mt-2 flex items-center gap-2">
        <Button small disabled={busy} onClick={() => void merge()}>
          {busy ? 'Merging…' : 'Merge'}
        </Button>
        {busy && (
          <Button small onClick={() => abort.current?.abort()}>
            Cancel
          </Button>
        )}
      </div>
    </Group>
  )
}

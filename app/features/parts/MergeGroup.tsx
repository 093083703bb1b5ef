/** A group as one picture: made at a chosen resolution, and taken back. */
import { useRef, useState } from 'react'
import type { Part } from '@marionette/core/puppet/schema'
import { assetsOfParts, partsBelow } from '@marionette/core/parts/tree'
import { mergeGroup, unmergeGroup } from '@marionette/core/parts/artCommands'
import { loadAssets, sendAssets } from '../../editor/assets'
import { openPuppet, perform, usePuppet } from '../../editor/document'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/Segments'
import { Cancelled } from '../../jobs/client'
import { Group } from '../../panels/Group'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'

const SCALES = [
  { value: '0.5', label: 'Half' },
  { value: '1', label: 'Full' },
  { value: '2', label: 'Double' },
] as const

export function MergeGroup({ part }: { part: Part }) {
  const editor = useEditor()
  const [scale, setScale] = useState<(typeof SCALES)[number]['value']>('1')
  const [busy, setBusy] = useState(false)
  const abort = useRef<AbortController | null>(null)
  const picture = usePuppet((p) => (part.merged === null ? undefined : p.pictures[part.merged]))
  const merge = async (): Promise<void> => {
    const puppet = openPuppet(editor)
    abort.current = new AbortController()
    setBusy(true)
    try {
      const assets = await loadAssets(editor, assetsOfParts(puppet, [part.id]))
      const merged = await editor.jobs.merge(puppet, part.id, assets, Number(scale), abort.current.signal)
      await sendAssets(editor, new Map([[merged.picture.asset, merged.png]]))
      perform(editor, [edit(mergeGroup, { part: part.id, picture: merged.picture })], `Merge ${part.name}`)
    } catch (error) {
      if (!(error instanceof Cancelled)) editor.notify.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  const inside = partsBelow(openPuppet(editor), part.id).length - 1
  if (picture)
    return (
      <Group id="merge" title="Merged to one picture">
        <p className="text-xs text-quiet">
          {picture.width} × {picture.height} px in place of {inside} parts, which are kept.
        </p>
        <Button
          small
          className="mt-2"
          onClick={() => perform(editor, [edit(unmergeGroup, { part: part.id })], `Take merging of ${part.name} back`)}
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

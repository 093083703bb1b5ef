/** The calibration page: all moods and sounds of this puppet, run through, with what is wrong with them. */
import { Check, TriangleAlert } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { Puppet } from '@marionette/core/puppet/schema'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import type { Bounds } from '@marionette/core/maths/geometry/bounds'
import type { FaceFinding } from '@marionette/core/reports/expressions'
import { takeMood } from '@marionette/core/poses/saved'
import { usePicture } from '../../pictures/posePictures'
import { loadAssets } from '../../editor/assets'
import { openPuppet, perform } from '../../editor/document'
import { holdSound, usePlaying } from './playing'
import { openPanel, selectParts } from '../../editor/session'
import { orSaid } from '../../editor/work'
import { Sheet } from '../../ui/Sheet'
import { boardRegion, moodItems, soundItems, type BoardItem } from './board'
import { edit } from '@marionette/core/kernel/command'
import { useEditor } from '../../editor/editor'
import { findingWords, partsOfFinding } from '@marionette/core/reports/faceWords'

export default function FacesSheet() {
  const editor = useEditor()
  const [puppet] = useState(() => openPuppet(editor))
  const mood = usePlaying((s) => s.mood)
  const [items] = useState(() => [...moodItems(puppet), ...soundItems(puppet, mood)])
  const [region] = useState(() => boardRegion(editor, puppet, items))
  const [done, setDone] = useState(0)
  const [found, setFound] = useState<ReadonlyMap<string, readonly FaceFinding[]> | null>(null)
  useEffect(() => {
    // Closing the page ends the work.
    const abort = new AbortController()
    void orSaid(editor, async () => {
      const still = (i: BoardItem): boolean => i.viseme === 'rest' || i.viseme === 'mbp'
      const expressions = items.map((i) => ({ id: i.id, values: i.values, isStill: still(i), isClosed: i.viseme === 'mbp' }))
      const checked = await editor.jobs.checkFaces(
        puppet,
        expressions,
        await loadAssets(editor, paintedAssetsOf(puppet)),
        setDone,
        abort.signal,
      )
      setFound(new Map(checked.map((c) => [c.id, c.findings])))
    })
    return () => abort.abort()
  }, [puppet, items, editor])
  const faulty = found ? [...found.values()].filter((f) => f.length > 0).length : 0
  const summary = !found
    ? `Running through ${items.length} expressions and mouth shapes… ${Math.round(100 * done)}%`
    : faulty === 0
      ? `All ${items.length} expressions and mouth shapes do something, and nothing is in the way of anything.`
      : `${faulty} of ${items.length} ask to be looked at.`
  return (
    <Sheet open wide onClose={() => openPanel(editor, null)} title="Expressions and mouth shapes" text={summary}>
      {!found && <progress aria-label="Checking" className="mb-3 h-1.5 w-full" value={done} />}
      <ul className="grid grid-cols-6 gap-3">
        {items.map((item) => (
          <Checked key={item.id} puppet={puppet} item={item} region={region} findings={found?.get(item.id) ?? null} />
        ))}
      </ul>
    </Sheet>
  )
}

interface CheckedProps {
  readonly puppet: Puppet
  readonly item: BoardItem
  readonly region: Bounds | null
  readonly findings: readonly FaceFinding[] | null
}

function Checked({ puppet, item, region, findings }: CheckedProps) {
  const editor = useEditor()
  const url = usePicture(item.values, region, JSON.stringify([item.values, region]))
  const isFaulty = findings !== null && findings.length > 0
  const show = (): void => {
    openPanel(editor, null)
    if (item.viseme === null) perform(editor, [edit(takeMood, { mood: item.id, share: 1 })], `Take up ${item.label}`)
    else if (usePlaying.of(editor).getState().held !== item.viseme) holdSound(editor, item.viseme)
    const parts = [...new Set(findings?.flatMap(partsOfFinding) ?? [])]
    if (parts.length > 0) selectParts(editor, ...parts)
  }
  return (
    <li className="min-w-0">
      <button
        type="button"
        aria-label={`Show ${item.label}`}
        title="Show it on the stage"
        onClick={show}
        className={`block aspect-square w-full overflow-hidden rounded-lg bg-[var(--stage)] ${isFaulty ? 'shadow-[0_0_0_2px_var(--brass)]' : 'hover:shadow-[0_0_0_2px_var(--twine)]'}`}
      >
        {url && <img src={url} alt="" className="size-full object-cover" />}
      </button>
      <p className="mt-1 flex items-center gap-1 text-xs">
        {findings !== null &&
          (isFaulty ? (
            <TriangleAlert size={12} className="flex-none text-brass" aria-label="Asks to be looked at" />
          ) : (
            <Check size={12} className="flex-none text-verdigris" aria-label="Fine" />
          ))}
        <span className="truncate font-semibold">{item.label}</span>
      </p>
      {findings?.map((finding, k) => (
        <p key={k} className="cap">
          {findingWords(puppet, finding)}
        </p>
      ))}
    </li>
  )
}

/** A new version of an artwork file: what is different, side by side, and what of it is taken over. */
import { listed } from '@marionette/core/kernel/counted'
import { RefreshCw } from 'lucide-react'
import { useEffect, useMemo, useRef, useState } from 'react'
import { sourceFiles, type UpdateEntry, type UpdateKind } from '@marionette/core/update/match'
import { loadAssets, sendAssets } from '../../editor/assets'
import { openPuppet, perform } from '../../editor/document'
import { openPanel } from '../../editor/session'
import { Button } from '../../ui/Button'
import { Sheet } from '../../ui/Sheet'
import { onFiles } from '../library/importing'
import { editsOf } from '../../jobs/edits'
import type { Compared } from '../../jobs/updating'
import { paintedAssetsOf } from '@marionette/core/parts/tree'
import { drawParts } from './pictures'
import { canWatch, chooseFile, onSaved, useWatched, watch } from './watching'
import { useEditor } from '../../editor/editor'
import { sure } from '@marionette/core/kernel/sure'
import { Box } from '../../ui/Box'
import { Pick } from '../../ui/Pick'

const WORDS: Readonly<Record<Exclude<UpdateKind, 'same'>, string>> = {
  changed: 'Changed',
  moved: 'Moved',
  renamed: 'Renamed',
  added: 'Added',
  gone: 'Gone',
}
const ORDER = Object.keys(WORDS) as (keyof typeof WORDS)[]

/** What is gone stays unless a person ticks it: it may carry work. */
const isTickedAtFirst = ({ kind }: UpdateEntry): boolean => kind !== 'same' && kind !== 'gone'

const leftWords = (names: readonly string[]): string =>
  `Not taken over: ${listed(names.map((n) => `“${n}”`))}. A group that still has parts in it cannot show artwork itself.`

interface Found {
  readonly compared: Compared
  readonly file: string
}

export default function UpdateSheet() {
  const editor = useEditor()
  const puppet = openPuppet(editor)
  const files = useMemo(() => sourceFiles(puppet), [puppet])
  const [source, setSource] = useState(files[0] ?? '')
  const [found, setFound] = useState<Found | null>(null)
  const watched = useWatched((s) => s.waiting)
  const close = (): void => openPanel(editor, null)
  const compare = async (file: File): Promise<void> => {
    const known = files.includes(file.name) ? file.name : source
    const compared = await onFiles(editor, [file], file.name, ([named], progress, signal) =>
      editor.jobs.compare(openPuppet(editor), sure(named), known, progress, signal),
    )
    if (compared) setFound({ compared, file: file.name })
  }
  const latest = useRef(compare)
  latest.current = compare
  // A file that is watched and was saved again is compared as soon as the sheet opens.
  useEffect(() => {
    if (watched) void onSaved(editor).then((file) => file && latest.current(file))
  }, [editor, watched])
  if (found) return <Differences found={found} onClose={close} onBack={() => setFound(null)} />
  return <Choose files={files} source={source} onSource={setSource} onFile={compare} onClose={close} />
}

interface ChooseProps {
  readonly files: readonly string[]
  readonly source: string
  readonly onSource: (file: string) => void
  readonly onFile: (file: File) => Promise<void>
  readonly onClose: () => void
}

function Choose({ files, source, onSource, onFile, onClose }: ChooseProps) {
  const editor = useEditor()
  const input = useRef<HTMLInputElement>(null)
  const choose = async (): Promise<void> => {
    if (!canWatch()) return input.current?.click()
    const handle = await chooseFile()
    if (!handle) return
    watch(editor, handle)
    await onFile(await handle.getFile())
  }
  return (
    <Sheet
      open
      onClose={onClose}
      onFiles={([file]) => files.length > 0 && file && void onFile(file)}
      title="A new version of the artwork"
      text="Layers are found again by identity, path, name and look. Bones, weights, pivots and homes stay."
    >
      {files.length === 0 ? (
        <p>No part of this puppet came from a file, so there is nothing to compare with.</p>
      ) : (
        <>
          {files.length > 1 && (
            <div className="mb-3 flex items-center gap-3">
              <span className="whitespace-nowrap text-quiet">It replaces</span>
              <Pick label="It replaces" value={source} onChange={onSource} options={files.map((f) => ({ id: f, label: f }))} />
            </div>
          )}
          {files.length === 1 && (
            <p className="mb-3">
              It replaces <b>{files[0]}</b>.
            </p>
          )}
          <Button kind="ink" onClick={() => void choose()}>
            Choose the file
          </Button>
          <span className="ml-3 text-quiet">or drop it here</span>
          {canWatch() && <p className="cap mt-2">The file is then watched: when it is saved again, this is offered by itself.</p>}
        </>
      )}
      <input
        ref={input}
        type="file"
        hidden
        data-testid="update-input"
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) void onFile(file)
          e.target.value = ''
        }}
      />
    </Sheet>
  )
}

function Differences({ found, onClose, onBack }: { found: Found; onClose: () => void; onBack: () => void }) {
  const editor = useEditor()
  const { compared, file } = found
  const { entries } = compared
  const [ticked, setTicked] = useState<ReadonlySet<number>>(() => new Set(entries.flatMap((e, i) => (isTickedAtFirst(e) ? [i] : []))))
  const [busy, setBusy] = useState(false)
  const pictures = usePictures(compared)
  const same = entries.filter((e) => e.kind === 'same').length
  const toggle = (indices: readonly number[]): void => {
    const next = new Set(ticked)
    const all = indices.every((i) => next.has(i))
    for (const i of indices) if (all) next.delete(i); else next.add(i) // prettier-ignore
    setTicked(next)
  }
  const apply = async (): Promise<void> => {
    setBusy(true)
    try {
      await sendAssets(editor, compared.assets)
      const { edits, left } = await editor.jobs.update(
        openPuppet(editor),
        compared,
        [...ticked].sort((a, b) => a - b),
      )
      if (left.length > 0) editor.notify.warning(leftWords(left), { duration: 10_000 })
      if (edits.length === 0 || perform(editor, editsOf(edits), `Update from ${file}`)) onClose()
    } catch (error) {
      editor.notify.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }
  const differs = entries.length - same
  return (
    <Sheet
      full
      open
      onClose={onClose}
      title={differs === 0 ? `${file} shows nothing new` : `${file}: ${differs} differences`}
      text={`${same} parts are as they were.`}
    >
      {ORDER.map((kind) => (
        <Section
          key={kind}
          title={WORDS[kind]}
          entries={entries.map((entry, i) => ({ entry, i })).filter(({ entry }) => entry.kind === kind)}
          ticked={ticked}
          compared={compared}
          pictures={pictures}
          onToggle={toggle}
        />
      ))}
      <footer className="mt-4 flex items-center gap-3 pb-1">
        <Button kind="ink" disabled={busy || ticked.size === 0} onClick={() => void apply()}>
          {busy ? 'Taking over…' : `Take over ${ticked.size}`}
        </Button>
        <Button onClick={onBack}>
          <RefreshCw size={14} /> Another file
        </Button>
        <span className="cap ml-auto">One step of undo takes it all back.</span>
      </footer>
    </Sheet>
  )
}

interface SectionProps {
  readonly title: string
  readonly entries: readonly { readonly entry: UpdateEntry; readonly i: number }[]
  readonly ticked: ReadonlySet<number>
  readonly compared: Compared
  readonly pictures: Pictures
  readonly onToggle: (indices: readonly number[]) => void
}

function Section({ title, entries, ticked, compared, pictures, onToggle }: SectionProps) {
  const editor = useEditor()
  if (entries.length === 0) return null
  const all = entries.map(({ i }) => i)
  const { parts } = openPuppet(editor)
  return (
    <section className="mb-4">
      <h3 className="mb-1 flex items-center gap-2 font-semibold">
        <Box aria-label={`All that is ${title.toLowerCase()}`} checked={all.every((i) => ticked.has(i))} onChange={() => onToggle(all)} />
        {title} <span className="num text-quiet">{entries.length}</span>
      </h3>
      <ul className="grid grid-cols-2 gap-x-6 xl:grid-cols-3">
        {entries.map(({ entry, i }) => {
          const before = entry.present ? parts[entry.present]?.name : undefined
          const after = entry.incoming ? compared.incoming.parts[entry.incoming]?.name : undefined
          return (
            <li key={i}>
              <label className="flex items-center gap-2 border-b border-hair py-1.5">
                <Box checked={ticked.has(i)} onChange={() => onToggle([i])} />
                <Face url={entry.present ? pictures.before.get(entry.present) : undefined} />
                <span className="text-quiet">→</span>
                <Face url={entry.incoming ? pictures.after.get(entry.incoming) : undefined} />
                <span className="min-w-0 flex-1">
                  <span className="block truncate">{after ?? before}</span>
                  {entry.renamed && before !== after && <span className="block truncate text-xs text-quiet">was {before}</span>}
                  {entry.by === 'likeness' && <span className="cap block">found by its look</span>}
                </span>
              </label>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function Face({ url }: { url: string | undefined }) {
  return (
    <span className="grid size-14 flex-none place-items-center overflow-hidden rounded-lg bg-[var(--stage)]">
      {url && <img src={url} alt="" className="size-14 object-contain" draggable={false} />}
    </span>
  )
}

interface Pictures {
  readonly before: ReadonlyMap<string, string>
  readonly after: ReadonlyMap<string, string>
}

const NO_PICTURES: Pictures = { before: new Map(), after: new Map() }

/** Small pictures of what differs, of both versions. */
function usePictures(compared: Compared): Pictures {
  const editor = useEditor()
  const [pictures, setPictures] = useState<Pictures>(NO_PICTURES)
  useEffect(() => {
    let isGone = false
    const differing = compared.entries.filter((e) => e.kind !== 'same')
    const draw = async (): Promise<void> => {
      const puppet = openPuppet(editor)
      const own = await loadAssets(editor, paintedAssetsOf(puppet)).catch(() => new Map<string, Uint8Array>())
      const before = await drawParts(puppet, differing.flatMap((e) => e.present ?? []), own) // prettier-ignore
      const after = await drawParts(compared.incoming, differing.flatMap((e) => e.incoming ?? []), compared.assets) // prettier-ignore
      if (!isGone) setPictures({ before, after })
    }
    void draw()
    return () => {
      isGone = true
    }
  }, [compared, editor])
  useEffect(() => () => [...pictures.before.values(), ...pictures.after.values()].forEach((url) => URL.revokeObjectURL(url)), [pictures])
  return pictures
}

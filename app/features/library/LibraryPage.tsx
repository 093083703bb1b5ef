/** The library: all puppets hanging from one cord. */
import { counted } from '@marionette/core/kernel/counted'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { formatDistanceToNow } from 'date-fns'
import { MoreHorizontal, Moon, Plus, Search, Sun } from 'lucide-react'
import { lazy, Suspense, useMemo, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { createPuppet, listPuppets, renameStored, thumbnailUrl, type PuppetSummary } from '../../storage/api'
import { setTheme, useSession } from '../../editor/session'
import { Button, IconButton } from '../../ui/Button'
import { Mark } from '../../ui/icons'
import { DropArea } from './DropArea'
import { importFiles, isArtwork, useImport } from './importing'
import { READABLE_ENDINGS } from '@marionette/formats/endings'
import { useEditor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'

/** Menus come beside the page: nobody presses them before there is anything to see. */
const CardMenu = lazy(() => import('./CardMenu'))
const LibraryMenu = lazy(() => import('./LibraryMenu'))

/** In place of a menu that is about to come; nothing that could be pressed. */
const MenuComing = () => (
  <span aria-hidden className="grid size-8 place-items-center text-quiet">
    <MoreHorizontal size={17} />
  </span>
)

const KEY = ['puppets']

export function LibraryPage() {
  const puppets = useQuery({ queryKey: KEY, queryFn: listPuppets })
  const [wanted, setWanted] = useState('')
  const shown = useMemo(
    () => (puppets.data ?? []).filter((p) => `${p.name} ${p.note}`.toLowerCase().includes(wanted.trim().toLowerCase())),
    [puppets.data, wanted],
  )
  return (
    <DropArea className="scroll-thin h-full overflow-y-auto">
      <Header wanted={wanted} onWanted={setWanted} />
      <main className="relative px-7 pb-10">
        {shown.length > 0 && (
          // The wire ends after the last puppet, or goes on to the edge where the row is full.
          <i
            className={`absolute top-[11px] left-0 border-t-[1.5px] border-twine ${shown.length > 3 ? 'right-0' : 'right-[max(28px,24%)]'}`}
            aria-hidden
          />
        )}
        {puppets.isError && (
          <div role="alert" className="rounded-2xl bg-brass-soft p-5">
            <b>The library does not open.</b> {puppets.error.message}{' '}
            <Button small className="ml-2" onClick={() => void puppets.refetch()}>
              Try again
            </Button>
          </div>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-x-5 gap-y-8" aria-label="Puppets">
          {shown.map((puppet) => (
            <PuppetCard key={puppet.id} puppet={puppet} />
          ))}
          {!wanted && puppets.isSuccess && <FirstSteps isEmpty={puppets.data.length === 0} narrow={puppets.data.length === 2} />}
          {!wanted && puppets.isSuccess && puppets.data.length < 3 && <TenMinutes />}
        </ul>
        {puppets.isSuccess && wanted && shown.length === 0 && (
          <p className="py-10 text-center text-quiet">No puppet here is called “{wanted}”.</p>
        )}
      </main>
    </DropArea>
  )
}

function Header({ wanted, onWanted }: { wanted: string; onWanted: (text: string) => void }) {
  const editor = useEditor()
  const theme = useSession((s) => s.theme)
  const navigate = useNavigate()
  const create = useMutation({
    mutationFn: () => createPuppet('New puppet'),
    onSuccess: (puppet) => navigate(`/puppet/${puppet.id}/parts`),
    onError: (error) => editor.notify.error(error.message),
  })
  return (
    <header className="flex h-[86px] items-center gap-4 px-7">
      <Mark size={40} />
      <h1 className="font-display text-[30px]/9 font-semibold tracking-[-.015em]">Eager Marionette</h1>
      <span className="flex-1" />
      <label className="flex h-9 w-[220px] items-center gap-2 rounded-full bg-tint px-3.5 text-quiet focus-within:shadow-[0_0_0_2px_var(--cord)]">
        <Search size={15} />
        <input
          aria-label="Find a puppet"
          placeholder="Find a puppet"
          className="w-full bg-transparent text-ink outline-none placeholder:text-quiet"
          value={wanted}
          onChange={(e) => onWanted(e.target.value)}
        />
      </label>
      <IconButton
        label={theme === 'daylight' ? 'Footlights, the dark theme' : 'Daylight, the light theme'}
        onClick={() => setTheme(editor, theme === 'daylight' ? 'footlights' : 'daylight')}
      >
        {theme === 'daylight' ? <Moon size={17} /> : <Sun size={17} />}
      </IconButton>
      <Suspense fallback={<MenuComing />}>
        <LibraryMenu />
      </Suspense>
      <Button kind="ink" className="h-9" disabled={create.isPending} onClick={() => create.mutate()}>
        <Plus size={16} /> New puppet
      </Button>
    </header>
  )
}

function PuppetCard({ puppet }: { puppet: PuppetSummary }) {
  const [renaming, setRenaming] = useState(false)
  return (
    <li className="group relative pt-7" data-puppet={puppet.id}>
      <i
        className="absolute top-[6px] left-1/2 size-[11px] -translate-x-1/2 rounded-full border-[1.5px] border-twine bg-paper group-focus-within:border-cord group-focus-within:bg-cord group-hover:border-cord group-hover:bg-cord"
        aria-hidden
      />
      <i className="absolute top-[17px] left-1/2 h-[22px] border-l-[1.5px] border-twine group-hover:border-cord" aria-hidden />
      <Link
        to={`/puppet/${puppet.id}/parts`}
        aria-label={`Open ${puppet.name}`}
        className="stage-body relative block aspect-[0.76] overflow-hidden rounded-2xl transition-shadow group-hover:shadow-[0_0_0_2px_var(--paper),0_0_0_4px_var(--cord)]"
      >
        <img
          src={thumbnailUrl(puppet)}
          alt=""
          className="absolute inset-0 h-full w-full object-contain px-4 pt-7 pb-4"
          loading="lazy"
          draggable={false}
        />
      </Link>
      <div className="mt-3 flex items-start gap-1 px-1">
        <div className="min-w-0 flex-1">
          {renaming ? (
            <RenameField puppet={puppet} onDone={() => setRenaming(false)} />
          ) : (
            <h2 className="truncate font-display text-[18px]/6 font-semibold">{puppet.name}</h2>
          )}
          {puppet.note && <p className="truncate">{puppet.note}</p>}
          <p className="mt-1 text-xs/4 text-quiet">
            {counted(puppet.bones, 'bone')}, {counted(puppet.parts, 'part')}
            <br />
            {formatDistanceToNow(new Date(puppet.updatedAt), { addSuffix: true })}
          </p>
        </div>
        <Suspense fallback={<MenuComing />}>
          <CardMenu puppet={puppet} onRename={() => setRenaming(true)} />
        </Suspense>
      </div>
    </li>
  )
}

function RenameField({ puppet, onDone }: { puppet: PuppetSummary; onDone: () => void }) {
  const editor = useEditor()
  const queries = useQueryClient()
  const rename = useMutation({
    mutationFn: (name: string) => renameStored(puppet.id, name),
    onSettled: () => queries.invalidateQueries({ queryKey: KEY }),
    onError: (e) => editor.notify.error(e.message),
  })
  const [name, setName] = useState(puppet.name)
  const finish = (keep: boolean): void => {
    if (keep && name.trim() && name.trim() !== puppet.name) rename.mutate(name.trim())
    onDone()
  }
  return (
    <input
      autoFocus
      aria-label="Name of the puppet"
      className="w-full rounded-md bg-panel px-1 font-display text-[18px]/6 font-semibold outline-2 outline-cord"
      value={name}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setName(e.target.value)}
      onBlur={() => finish(true)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') finish(true)
        if (e.key === 'Escape') finish(false)
      }}
    />
  )
}

function FirstSteps({ isEmpty, narrow }: { isEmpty: boolean; narrow: boolean }) {
  const editor = useEditor()
  const input = useRef<HTMLInputElement>(null)
  const queries = useQueryClient()
  const navigate = useNavigate()
  const choose = async (files: readonly File[]): Promise<void> => {
    if (files.length > 1 && files.every(isArtwork)) return useImport.of(editor).setState({ question: { files, folder: null } })
    const added = await importFiles(editor, files)
    await queries.invalidateQueries({ queryKey: KEY })
    if (added.length === 1) void navigate(`/puppet/${nth(added, 0).id}/parts`)
  }
  return (
    <li className={`relative flex flex-col pt-7 ${narrow ? '' : 'col-span-2'}`}>
      <section className="flex flex-1 flex-col items-center justify-center gap-6 rounded-2xl border border-dashed border-twine py-8 text-center min-h-[300px] px-6">
        <Sheets />
        <div className="max-w-[330px]">
          <h2 className="font-display text-[19px]/6 font-semibold">{isEmpty ? 'Hang your first puppet here' : 'Drop a drawing here'}</h2>
          <p className="mt-1 text-quiet">
            Layers become parts and keep their names, order and places: SVG, OpenRaster, PSD, PNG and WebP. A puppet archive opens as it
            was.
          </p>
          <Button className="mt-3" onClick={() => input.current?.click()}>
            Choose a file
          </Button>
          <input
            ref={input}
            type="file"
            multiple
            hidden
            accept={READABLE_ENDINGS.join(',')}
            data-testid="file-input"
            onChange={(e) => {
              void choose([...(e.target.files ?? [])])
              e.target.value = ''
            }}
          />
        </div>
      </section>
    </li>
  )
}

const STEPS = [
  ['Pose Marlo', 'Open the puppet, take Pose and drag a hand. Rest brings everything back.'],
  ['Drop your drawing', 'Name its layers as you would call them: Head, Upper arm left.'],
  ['Fit a template', 'Press T: named parts get a bound skeleton in one step.'],
  ['Draw bones', 'In Bones, from the hips up, then out along each limb.'],
  ['Bind', 'Rigid for stiff pieces, smooth for sleeves, tails and scarves.'],
  ['Send', 'Export a PNG of the pose, or everything as an archive.'],
] as const

/** The way through the product, for somebody who has just arrived. */
function TenMinutes() {
  return (
    <li className="relative pt-7" aria-label="The first ten minutes">
      <h2 className="font-display text-[18px]/6 font-semibold">The first ten minutes</h2>
      <ol className="relative mt-3">
        <i className="absolute top-2 bottom-12 left-[5px] border-l-[1.5px] border-twine" aria-hidden />
        {STEPS.map(([title, text]) => (
          <li key={title} className="relative pb-3 pl-6">
            <i className="absolute top-[5px] left-0 size-[11px] rounded-full border-[1.5px] border-twine bg-paper" aria-hidden />
            <b className="font-[650]">{title}</b>
            <p className="text-xs/[17px] text-quiet">{text}</p>
          </li>
        ))}
      </ol>
    </li>
  )
}

/** A small pile of sheets. */
function Sheets() {
  return (
    <svg width="84" height="92" viewBox="0 0 84 92" fill="none" stroke="var(--twine)" strokeWidth="1.5" aria-hidden>
      <rect x="4" y="16" width="52" height="66" rx="7" fill="var(--tint)" transform="rotate(-9 30 49)" />
      <rect x="14" y="12" width="52" height="66" rx="7" fill="var(--tint)" />
      <g transform="rotate(8 52 46)">
        <rect x="26" y="10" width="52" height="66" rx="7" fill="var(--panel)" />
        <circle cx="52" cy="30" r="8" fill="var(--tint)" />
        <path d="M40 62c0-14 4-20 12-20s12 6 12 20z" fill="var(--tint)" />
        <path d="M52 2v20" stroke="var(--cord)" />
      </g>
    </svg>
  )
}

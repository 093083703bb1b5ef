/** The strip along the top: identity and save state, the benches on their cord, history, search and theme. */
import { ChevronLeft, History, Moon, Redo2, Search, Sun, Undo2 } from 'lucide-react'
import { useEffect } from 'react'
import { Link } from 'react-router'
import { useShallow } from 'zustand/react/shallow'
import { openPuppet, redo, undo, useCanRedo, useCanUndo, useDocument, usePuppet, type SaveState } from '../editor/document'
import { useFindings } from './findings'
import { openPanel, setTheme, useSession } from '../editor/session'
import { Hint, IconButton } from '../ui/Button'
import { Mark } from '../ui/icons'
import { findingsAt, BENCHES } from './benches'
import { keysShown } from '../ui/keys'
import { useEditor, type Editor } from '../editor/editor'
import { useKeysFor } from '../panels/keymap'

const SAVE_WORDS: Record<SaveState['kind'], { text: string; dot: string }> = {
  saved: { text: 'Saved', dot: 'bg-verdigris' },
  changed: { text: 'Changed', dot: 'bg-brass' },
  saving: { text: 'Saving…', dot: 'bg-brass' },
  offline: { text: 'Not saved, server away', dot: 'bg-cord' },
  refused: { text: 'Not saved', dot: 'bg-cord' },
  conflict: { text: 'Changed elsewhere', dot: 'bg-cord' },
}

/** How it stands, and where neither the server nor the browser can keep the work, the way out. */
function SaveWords({ save, text }: { save: SaveState; text: string }) {
  const editor = useEditor()
  if ((save.kind === 'offline' || save.kind === 'refused') && !save.isKept)
    return (
      <Hint label={save.kind === 'refused' ? save.message : 'Neither the server nor this browser can keep it: do not close the page.'}>
        <button type="button" className="font-semibold text-cord underline" onClick={() => void takeWorkOut(editor)}>
          Not saved: keep as a file
        </button>
      </Hint>
    )
  if (save.kind !== 'refused') return text
  return (
    <Hint label={save.message}>
      <span tabIndex={0} className="underline decoration-dotted">
        {text}, why?
      </span>
    </Hint>
  )
}

/** The archive's writer. It is fetched once the puppet is open: when it is needed, the server that has it is away. */
const archiveFile = () => import('../features/send/archiveFile')
const takeWorkOut = async (editor: Editor): Promise<void> => (await archiveFile()).saveAsFile(editor, openPuppet(editor))

function Identity() {
  const editor = useEditor()
  const name = usePuppet((p) => p.name)
  const save = useDocument((s) => s.save)
  useEffect(() => void archiveFile().catch(() => undefined), [])
  const { text, dot } = SAVE_WORDS[save.kind]
  return (
    <div className="flex w-[292px] items-center gap-3 max-[1150px]:w-auto">
      <Hint label="To the library">
        <Link to="/" aria-label="To the library" className="group relative rounded-lg">
          <span className="transition-opacity group-hover:opacity-0">
            <Mark />
          </span>
          <ChevronLeft className="absolute inset-0 m-auto opacity-0 transition-opacity group-hover:opacity-100" size={22} />
        </Link>
      </Hint>
      <div className="min-w-0">
        <h1 className="max-w-[150px] truncate font-display text-[19px]/[22px] font-semibold tracking-[-.01em]">{name}</h1>
        <div className="cap flex items-center gap-1.5 whitespace-nowrap" role="status" data-testid="save-state" data-state={save.kind}>
          <i className={`size-1.5 rounded-full ${dot}`} />
          <SaveWords save={save} text={text} />
          {save.kind === 'saved' && `, version ${save.revision}`}
        </div>
      </div>
      <IconButton label="History" keys={useKeysFor('history')} className="ml-1" onClick={() => openPanel(editor, 'history')}>
        <History size={17} />
      </IconButton>
    </div>
  )
}

function Benches({ id }: { id: string }) {
  const bench = useSession((s) => s.bench)
  const counts = useDocument(useShallow((s) => BENCHES.map((b) => (s.puppet ? b.count(s.puppet) : null))))
  const findings = useFindings()
  return (
    <nav aria-label="Benches" className="bench-cord relative flex flex-1 justify-center gap-1 max-[1150px]:gap-0">
      {BENCHES.map((b, i) => {
        const open = findingsAt(findings, b.id).length
        return (
          <Hint key={b.id} label={b.name} keys={`Shift ${i + 1}`}>
            <Link
              to={`/puppet/${id}/${b.id}`}
              replace
              aria-current={bench === b.id ? 'page' : undefined}
              className={`bench-tab relative mt-5 flex h-8 items-center gap-1.5 rounded-lg px-3 font-medium max-[1150px]:px-2 ${
                bench === b.id ? 'bg-panel font-[650] shadow-1' : 'hover:bg-tint'
              }`}
            >
              {b.name}
              {counts[i] !== null && <span className="num text-quiet">{counts[i]}</span>}
              {open > 0 && (
                <span
                  className="inline-grid h-4 min-w-4 place-items-center rounded-full bg-brass-soft px-1 text-[11px]/4 font-[650] text-brass-ink"
                  title={`${open} open findings`}
                >
                  {open}
                </span>
              )}
            </Link>
          </Hint>
        )
      })}
    </nav>
  )
}

function Meta() {
  const editor = useEditor()
  const theme = useSession((s) => s.theme)
  const canUndo = useCanUndo()
  const canRedo = useCanRedo()
  return (
    <div className="flex w-[292px] items-center justify-end gap-0.5 max-[1150px]:w-auto">
      <IconButton label="Undo" keys={useKeysFor('undo')} disabled={!canUndo} onClick={() => undo(editor)}>
        <Undo2 size={17} />
      </IconButton>
      <IconButton label="Redo" keys={useKeysFor('redo')} disabled={!canRedo} onClick={() => redo(editor)}>
        <Redo2 size={17} />
      </IconButton>
      <button
        type="button"
        onClick={() => openPanel(editor, 'search')}
        className="mx-1.5 flex h-8 items-center gap-2 rounded-full bg-tint px-3 text-xs whitespace-nowrap text-quiet hover:text-ink max-[1150px]:hidden"
      >
        <Search size={14} /> Commands <kbd className="font-ui text-[11px] font-medium">{keysShown('Ctrl K')}</kbd>
      </button>
      <IconButton
        label={theme === 'daylight' ? 'Footlights, the dark theme' : 'Daylight, the light theme'}
        onClick={() => setTheme(editor, theme === 'daylight' ? 'footlights' : 'daylight')}
      >
        {theme === 'daylight' ? <Moon size={17} /> : <Sun size={17} />}
      </IconButton>
    </div>
  )
}

export function BenchStrip({ id }: { id: string }) {
  return (
    <header className="flex h-[60px] flex-none items-stretch px-4">
      <Identity />
      <Benches id={id} />
      <Meta />
    </header>
  )
}

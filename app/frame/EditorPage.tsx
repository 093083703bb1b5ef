/** One open puppet: strip, roster, stage, details and shelf. */
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ComponentType, type ReactNode } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'
import { Link, useNavigate, useParams } from 'react-router'
import type { Puppet } from '@marionette/core/puppet/schema'
import { takeVersion } from '@marionette/core/puppet/puppetCommands'
import { BenchStrip } from './BenchStrip'
import { isBench } from './benches'
import type { ActionContext } from '../panels/action'
import { ShortcutList } from './ShortcutList'
import { Shortcuts } from './Shortcuts'
import { ConflictSheet } from '../features/library/ConflictSheet'
import { DropArea } from '../features/library/DropArea'
import { Details } from './Details'
import { RecordingBar } from '../features/responses/RecordingBar'
import { recordingNow, useRecording } from '../features/responses/recording'
import { useRecordingGuard } from '../features/responses/guard'
import { Roster } from './Roster'
import { ControlShelf } from '../features/controls/ControlShelf'
import { Stage } from './Stage'
import type { StageView } from '../stage/stageView'
import { startAutosave } from '../editor/saving/autosave'
import type { Draft } from '../storage/drafts'
import { thisTab } from '../editor/saving/tab'
import { NO_FILTER } from '../editor/partFilter'
import { firstFolds } from '../panels/tree'
import { closeDocument, openPuppet, perform, useDocument } from '../editor/document'
import { openStored } from '../editor/saving/opening'
import { removePosePins } from '../features/posing/posePins'
import { NOTHING, useSession } from '../editor/session'
import { FEATURES } from '../features/features'
import { followTools, layDown } from './tools'
import { edit } from '@marionette/core/kernel/command'
import type { Recording } from '../storage/recording'
import { useEditor, type Editor } from '../editor/editor'
import { store, storedJson } from '../editor/settings'

/** What is not asked for with every puppet comes when it is. */
const CommandSearch = lazy(() => import('./CommandSearch'))
const HistorySheet = lazy(() => import('./HistorySheet'))
const UnsentSheet = lazy(() => import('../features/library/UnsentSheet'))
const RecordingSheet = lazy(() => import('../features/responses/RecordingSheet'))

/** Sheets of all features, by the panel that opens them. */
const SHEETS: Readonly<Record<string, ComponentType>> = Object.assign({}, ...FEATURES.map((f) => f.sheets ?? {}))

const DOCKS = FEATURES.flatMap((f) => f.docks ?? [])

/** Lets each feature listen to what it follows; returns how to end that. */
function connectFeatures(editor: Editor): () => void {
  const ends = FEATURES.flatMap((f) => f.connect?.(editor) ?? [])
  return () => ends.forEach((end) => end())
}

export default function EditorPage() {
  const editor = useEditor()
  const { id = '', bench } = useParams()
  const [failure, setFailure] = useState<string | null>(null)
  const [found, setFound] = useState<Found>(NOTHING_FOUND)
  const isOpen = useDocument((s) => s.puppet?.id === id)

  useEffect(() => {
    let stop: (() => void) | undefined
    let isGone = false
    useSession.of(editor).setState({
      selection: NOTHING,
      hover: NOTHING,
      renaming: null,
      panel: null,
      partFilter: NO_FILTER,
      partSort: 'order',
      mirrored: false,
      control: null,
      arranging: false,
    })
    setFound(NOTHING_FOUND)
    removePosePins(editor)
    useRecording.of(editor).setState({ recording: null, open: null })
    Promise.all([openStored(editor, id), thisTab()])
      .then(([how, tab]) => {
        if (isGone) return
        stop = startAutosave(editor, tab, () => recordingNow(editor))
        setFound({ unsent: how.unsent, recording: how.recording })
        useSession.of(editor).setState({ folded: new Set([...useSession.of(editor).getState().folded, ...firstFolds(openPuppet(editor))]) })
        if (how.kind === 'recovered') offerRecovered(editor, how.stored)
      })
      .catch((error: Error) => setFailure(error.message))
    return () => {
      isGone = true
      stop?.()
      closeDocument(editor)
    }
  }, [editor, id])

  useEffect(() => {
    if (!isBench(bench)) return
    layDown(editor, useSession.of(editor).getState().bench)
    useSession.of(editor).setState({ bench, hover: NOTHING })
  }, [editor, bench])

  if (failure) return <Unopened message={failure} />
  if (!isOpen) return <div className="grid h-full place-items-center text-quiet">Opening the puppet…</div>
  return (
    <>
      <Workshop id={id} />
      <Suspense>
        {found.recording && <RecordingSheet recording={found.recording} onAnswer={() => setFound({ ...found, recording: null })} />}
        {!found.recording && found.unsent.length > 0 && (
          <UnsentSheet drafts={found.unsent} onChange={(unsent) => setFound({ ...found, unsent })} />
        )}
      </Suspense>
    </>
  )
}

/** What was found when the puppet was opened, and waits for an answer. */
interface Found {
  readonly unsent: readonly Draft[]
  readonly recording: Recording | null
}

const NOTHING_FOUND: Found = { unsent: [], recording: null }

/** What a crash left behind was taken up again; the person may still leave it out, which can be undone as well. */
function offerRecovered(editor: Editor, stored: Puppet): void {
  editor.notify('Changes that had not reached the server were taken up again.', {
    duration: 20_000,
    action: {
      label: 'Leave them out',
      onClick: () => void perform(editor, [edit(takeVersion, { version: stored })], 'Leave recovered changes out'),
    },
  })
}

function Unopened({ message }: { message: string }) {
  return (
    <div className="grid h-full place-items-center">
      <div className="text-center">
        <h1 className="font-display text-[26px] font-semibold">This puppet did not open</h1>
        <p className="my-3 text-quiet">{message}</p>
        <Link to="/" className="font-semibold underline">
          To the library
        </Link>
      </div>
    </div>
  )
}

const HANDLE = 'w-2 rounded transition-colors data-[separator=hover]:bg-hair data-[separator=active]:bg-twine'

/** The stage with what is recorded on its upper edge: a red frame says that something is. */
function Recorded({ children }: { children: ReactNode }) {
  const isOn = useRecording((s) => s.recording !== null)
  return (
    <div
      className={`flex min-h-0 flex-1 flex-col ${isOn ? 'overflow-hidden rounded-2xl border-3 border-[var(--record)] [&_[data-testid=stage-view]]:rounded-none' : ''}`}
    >
      <RecordingBar />
      {children}
    </div>
  )
}

/** Panel sizes last as long as the browser's storage. */
const LAYOUT = 'editor-panels'
const storedLayout = (): Record<string, number> | null => storedJson(LAYOUT) as Record<string, number> | null

function Workshop({ id }: { id: string }) {
  const editor = useEditor()
  const navigate = useNavigate()
  const view = useRef<StageView | null>(null)
  const name = useDocument((s) => s.puppet?.name)
  const context = useMemo<ActionContext>(
    () => ({
      editor,
      view: () => view.current,
      go: (path) => void navigate(path.startsWith('/') ? path : `/puppet/${id}/${path}`, { replace: !path.startsWith('/') }),
    }),
    [editor, id, navigate],
  )
  useEffect(() => {
    document.title = `${name}, Eager Marionette`
    return () => void (document.title = 'Eager Marionette')
  }, [name])
  useEffect(() => connectFeatures(editor), [editor])
  useEffect(() => followTools(editor), [editor])
  useRecordingGuard(id)
  const panel = useSession((s) => s.panel)
  const Sheet = panel === null ? undefined : SHEETS[panel]
  const layout = useMemo(storedLayout, [])
  return (
    <DropArea into={id} className="flex h-full min-w-[960px] flex-col">
      <BenchStrip id={id} />
      <Group
        orientation="horizontal"
        className="min-h-0 flex-1"
        {...(layout ? { defaultLayout: layout } : {})}
        onLayoutChanged={(sizes) => store(LAYOUT, JSON.stringify(sizes))}
      >
        <Panel
          id="roster"
          defaultSize="240px"
          minSize="180px"
          maxSize="420px"
          collapsible
          collapsedSize="0px"
          className="flex flex-col [&>*]:flex-1"
        >
          <Roster context={context} />
        </Panel>
        <Separator className={HANDLE} aria-label="Width of the roster" />
        <Panel id="stage" minSize="35%" className="flex flex-col">
          <Recorded>
            <Stage view={view} context={context} />
          </Recorded>
          <ControlShelf />
        </Panel>
        <Separator className={HANDLE} aria-label="Width of the details" />
        <Panel
          id="details"
          defaultSize="264px"
          minSize="220px"
          maxSize="440px"
          collapsible
          collapsedSize="0px"
          className="flex flex-col [&>*]:flex-1"
        >
          <Details />
        </Panel>
      </Group>
      {DOCKS.map((Dock, k) => (
        <Dock key={k} />
      ))}
      <Shortcuts context={context} />
      <ShortcutList />
      <ConflictSheet />
      <Suspense>
        {panel === 'search' && <CommandSearch context={context} />}
        {panel === 'history' && <HistorySheet />}
        {Sheet && <Sheet />}
      </Suspense>
    </DropArea>
  )
}

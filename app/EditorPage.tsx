/** One open puppet: strip, roster, stage, details and shelf. */
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { Group, Panel, Separator } from 'react-resizable-panels'
import { Link, useNavigate, useParams } from 'react-router'
import { toast } from 'sonner'
import type { Puppet } from '@marionette/core/document/schema'
import { edit } from '@marionette/core/edit/command'
import { takeVersion } from '@marionette/core/edit/puppet'
import { BenchStrip } from './benches/BenchStrip'
import { isBench } from './benches/benches'
import type { ActionContext } from './commands/actions'
import { ShortcutList } from './commands/ShortcutList'
import { Shortcuts } from './commands/Shortcuts'
import { ConflictSheet } from './library/ConflictSheet'
import { DropArea } from './library/DropArea'
import { Details } from './details/Details'
import { RecordingBar } from './responses/RecordingBar'
import { useRecording, type Recording } from './state/recording'
import { useRecordingGuard } from './responses/guard'
import { Roster } from './roster/Roster'
import { ControlShelf } from './shelf/ControlShelf'
import { Stage } from './stage/Stage'
import type { StageView } from './stage/stageView'
import { startAutosave } from './state/saving/autosave'
import type { Draft } from './state/saving/drafts'
import { thisTab } from './state/saving/tab'
import { NO_FILTER } from './roster/filter'
import { firstFolds } from './roster/tree'
import { listenToCues } from './state/cues'
import { closeDocument, openPuppet, perform, useDocument } from './state/document'
import { openStored } from './state/saving/opening'
import { removeNails } from './state/nails'
import { NOTHING, useSession } from './state/session'
import { layDown } from './stage/tools/tools'

/** What is not asked for with every puppet comes when it is. */
const CommandSearch = lazy(() => import('./commands/CommandSearch'))
const HistorySheet = lazy(() => import('./commands/HistorySheet'))
const NamesSheet = lazy(() => import('./roster/NamesSheet'))
const RenameSheet = lazy(() => import('./roster/RenameSheet'))
const FitSheet = lazy(() => import('./fit/FitSheet'))
const UpdateSheet = lazy(() => import('./update/UpdateSheet'))
const CellsSheet = lazy(() => import('./views/CellsSheet'))
const TurnSheet = lazy(() => import('./responses/TurnSheet'))
const WiringSheet = lazy(() => import('./responses/WiringSheet'))
const MouthSheet = lazy(() => import('./face/MouthSheet'))
const EyesSheet = lazy(() => import('./face/EyesSheet'))
const FacesSheet = lazy(() => import('./face/FacesSheet'))
const UnsentSheet = lazy(() => import('./library/UnsentSheet'))
const RecordingSheet = lazy(() => import('./responses/RecordingSheet'))
const MeltingSheet = lazy(() => import('./face/MeltingSheet'))

export default function EditorPage() {
  const { id = '', bench } = useParams()
  const [failure, setFailure] = useState<string | null>(null)
  const [found, setFound] = useState<Found>(NOTHING_FOUND)
  const isOpen = useDocument((s) => s.puppet?.id === id)

  useEffect(() => {
    let stop: (() => void) | undefined
    let isGone = false
    useSession.setState({
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
    removeNails()
    useRecording.setState({ recording: null, open: null })
    Promise.all([openStored(id), thisTab()])
      .then(([how, tab]) => {
        if (isGone) return
        stop = startAutosave(tab)
        setFound({ unsent: how.unsent, recording: how.recording })
        useSession.setState({ folded: new Set([...useSession.getState().folded, ...firstFolds(openPuppet())]) })
        if (how.kind === 'recovered') offerRecovered(how.stored)
      })
      .catch((error: Error) => setFailure(error.message))
    return () => {
      isGone = true
      stop?.()
      closeDocument()
    }
  }, [id])

  useEffect(() => {
    if (!isBench(bench)) return
    layDown(useSession.getState().bench)
    useSession.setState({ bench, hover: NOTHING })
  }, [bench])

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
function offerRecovered(stored: Puppet): void {
  toast('Changes that had not reached the server were taken up again.', {
    duration: 20_000,
    action: {
      label: 'Leave them out',
      onClick: () => void perform([edit(takeVersion, { version: stored })], 'Leave recovered changes out'),
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
function storedLayout(): Record<string, number> | undefined {
  try {
    return JSON.parse(localStorage.getItem(LAYOUT) ?? 'null') ?? undefined
  } catch {
    return undefined
  }
}

function Workshop({ id }: { id: string }) {
  const navigate = useNavigate()
  const view = useRef<StageView | null>(null)
  const name = useDocument((s) => s.puppet?.name)
  const context = useMemo<ActionContext>(
    () => ({
      view: () => view.current,
      go: (path) => void navigate(path.startsWith('/') ? path : `/puppet/${id}/${path}`, { replace: !path.startsWith('/') }),
    }),
    [id, navigate],
  )
  useEffect(() => {
    document.title = `${name}, Eager Marionette`
    return () => void (document.title = 'Eager Marionette')
  }, [name])
  useEffect(listenToCues, [])
  useRecordingGuard(id)
  const panel = useSession((s) => s.panel)
  const layout = useMemo(storedLayout, [])
  return (
    <DropArea into={id} className="flex h-full min-w-[960px] flex-col">
      <BenchStrip id={id} />
      <Group
        orientation="horizontal"
        className="min-h-0 flex-1"
        {...(layout ? { defaultLayout: layout } : {})}
        onLayoutChanged={(sizes) => localStorage.setItem(LAYOUT, JSON.stringify(sizes))}
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
          <Roster />
        </Panel>
        <Separator className={HANDLE} aria-label="Width of the roster" />
        <Panel id="stage" minSize="35%" className="flex flex-col">
          <Recorded>
            <Stage view={view} />
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
      <Shortcuts context={context} />
      <ShortcutList />
      <ConflictSheet />
      <Suspense>
        {panel === 'search' && <CommandSearch context={context} />}
        {panel === 'history' && <HistorySheet />}
        {panel === 'rename' && <RenameSheet />}
        {panel === 'names' && <NamesSheet />}
        {panel === 'fit' && <FitSheet />}
        {panel === 'update' && <UpdateSheet />}
        {panel === 'cells' && <CellsSheet />}
        {panel === 'wiring' && <WiringSheet />}
        {panel === 'turn' && <TurnSheet />}
        {panel === 'mouth' && <MouthSheet />}
        {panel === 'eyes' && <EyesSheet />}
        {panel === 'faces' && <FacesSheet />}
        {panel === 'melting' && <MeltingSheet />}
      </Suspense>
    </DropArea>
  )
}

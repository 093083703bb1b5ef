/** Right: what is selected, in numbers. */
import { lazy, Suspense } from 'react'
import type { Control, Response } from '@marionette/core/puppet/schema'
import { useDocument, usePuppet } from '../editor/document'
import { recorded, useRecording } from '../features/responses/recording'
import { useSession } from '../editor/session'
import { ControlDetails } from '../features/controls/ControlDetails'
import { ChangesPanel } from '../features/responses/ChangesPanel'
import { AnswersTo, ResponseDetails } from '../features/responses/ResponseDetails'
import { JointDetails } from '../features/joints/JointDetails'
import { FEATURES } from '../features/features'
import type { DetailsGroup } from '../panels/feature'
import { useEditor } from '../editor/editor'

const PointWeights = lazy(() => import('../features/binds/PointWeights').then((m) => ({ default: m.PointWeights })))
const FaceDetails = lazy(() => import('../features/face/FaceDetails'))
const SendDetails = lazy(() => import('../features/send/SendDetails'))

const NONE: readonly string[] = []
const GROUPS = FEATURES.flatMap((f) => f.details ?? []).sort((a, b) => a.place - b.place)

/** What all features have to say of what is selected. */
function Groups({ about, ids }: { about: DetailsGroup['about']; ids: readonly string[] }) {
  const bench = useSession((s) => s.bench)
  const puppet = usePuppet((p) => p)
  return GROUPS.map(({ about: of, shows, Group }, k) =>
    of === about && (!shows || shows({ puppet, ids, bench })) ? (
      <Suspense key={k}>
        <Group ids={ids} />
      </Suspense>
    ) : null,
  )
}

export function Details() {
  const editor = useEditor()
  const selection = useSession((s) => s.selection)
  const bench = useSession((s) => s.bench)
  const chosenJoint = useSession((s) => s.joint)
  const first = selection.ids[0]
  const chosenControl = useSession((s) => s.control)
  const { open, recording } = useRecording()
  const control = useDocument((s) => (recording ? undefined : s.puppet?.controls.find((c) => c.id === chosenControl)))
  const response = useDocument((s) => s.puppet?.responses.find((r) => r.id === open))
  const puppet = useDocument((s) => s.puppet)
  const now = puppet && recording ? recorded(editor, puppet, recording) : null
  const joint = useDocument((s) => (chosenJoint !== null && s.puppet?.joints[chosenJoint] ? chosenJoint : null))
  const exists = useDocument(
    (s) => first !== undefined && s.puppet !== null && (selection.kind === 'part' ? first in s.puppet.parts : first in s.puppet.bones),
  )
  return (
    <aside aria-label="Details" className="scroll-thin flex min-h-0 flex-col overflow-y-auto pt-2 pr-4 pb-3 pl-5">
      <Answering now={now} control={control} response={first === undefined ? response : undefined} />
      {bench === 'face' && !control && !exists && <Face />}
      <Suspense>
        <PointWeights />
      </Suspense>
      {control || (response && first === undefined && !now) ? null : bench === 'send' ? (
        <Suspense>
          <SendDetails />
        </Suspense>
      ) : joint !== null && first === undefined && bench === 'parts' ? (
        <JointDetails key={joint} id={joint} />
      ) : !exists && bench === 'face' ? null : !exists ? (
        <Groups about="puppet" ids={NONE} />
      ) : selection.kind === 'part' ? (
        <Groups about="part" ids={selection.ids} />
      ) : (
        <Groups about="bone" ids={selection.ids} />
      )}
      <MoreSelected />
      {bench === 'face' && !control && exists && <Face />}
    </aside>
  )
}

/** Details are those of the first of several parts. */
function MoreSelected() {
  const { kind, ids } = useSession((s) => s.selection)
  const isSending = useSession((s) => s.bench === 'send')
  return kind === 'part' && ids.length > 1 && !isSending ? <p className="cap mt-1">and {ids.length - 1} more selected</p> : null
}

interface AnsweringProps {
  readonly now: ReturnType<typeof recorded>
  readonly control: Control | undefined
  readonly response: Response | undefined
}

/** What is recorded, else the chosen control, else the open response. */
function Answering({ now, control, response }: AnsweringProps) {
  if (now)
    return (
      <>
        <ChangesPanel response={now.response} stop={now.stop} />
        <AnswersTo response={now.response} />
      </>
    )
  if (control) return <ControlDetails control={control} />
  return response ? <ResponseDetails response={response} /> : null
}

const Face = () => (
  <Suspense>
    <FaceDetails />
  </Suspense>
)

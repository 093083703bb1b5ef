/**
 * Recording a response: as long as it goes on, edits by any tool become changes of its stop instead of changes of the puppet.
 *
 * The puppet in the document is whole at any moment, with what is recorded so far: it is saved, undone and shown like any
 * other. Keeping makes one entry of the history of all; discarding walks back to where it began.
 */
import { freeName } from '@marionette/core/kernel/freeName'
import { counted } from '@marionette/core/kernel/counted'
import { freshId } from '@marionette/core/kernel/ids'
import { channelOfChange, partOfChange, type Input, type Puppet, type Response, type Stop } from '@marionette/core/puppet/schema'
import { mirroredResponse, mirrorResponse } from '@marionette/core/responses/mirror'
import { setPose } from '@marionette/core/poses/commands'
import { addResponse, addStop, recordStop } from '@marionette/core/responses/commands'
import { isRestructured } from '@marionette/core/recording/restructured'
import { recordedChanges } from '@marionette/core/recording/record'
import { compileInput, restOfInput } from '@marionette/core/responses/inputs'
import { FoldedError } from '@marionette/core/touch/posedPaths'
import { inputWords, stopWords } from './words'
import { backTo, joinSince, openPuppet, perform, layAround, type Redirect, useDocument } from '../../editor/document'
import { frameOf } from '../../editor/poseInverse'
import { useSession } from '../../editor/session'
import { holdSpeedsOf, releaseSpeeds } from '../../editor/speeds'
import { edit, type Edit } from '@marionette/core/kernel/command'
import { EditError } from '@marionette/core/kernel/errors'
import { newResponse } from '@marionette/core/responses/new'
import { otherPart } from '@marionette/core/parts/mirror'
import { channelOf } from '@marionette/core/puppet/channels'
import { HOST } from '@marionette/core/puppet/host'
import type { Frame } from '@marionette/core/puppet/frame'
import type { Recording } from '../../storage/recording'
import { editorStore, type Editor } from '../../editor/editor'
import { nth, sure } from '@marionette/core/kernel/sure'

interface RecordingState {
  recording: Recording | null
  /** The response whose stops are shown, recorded or not. */
  open: string | null
}

export const useRecording = editorStore<RecordingState>(() => ({ recording: null, open: null }))

export const recordingNow = (editor: Editor): Recording | null => useRecording.of(editor).getState().recording

/** What is being recorded, with its response and stop; null when nothing is, or an undo has taken it away. */
export function recorded(editor: Editor, puppet: Puppet, recording = recordingNow(editor)): { response: Response; stop: Stop } | null {
  const response = recording && puppet.responses.find((r) => r.id === recording.response)
  const stop = response?.stops.find((s) => s.id === sure(recording).stop)
  return response && stop ? { response, stop } : null
}

/** Commands that change responses themselves, and are no part of what is recorded. */
const isAbout = ({ command: { name } }: Edit): boolean => name.startsWith('response.') || name.startsWith('stop.')

/** What is recorded of edits while recording; the edits themselves otherwise. */
function recordInstead(editor: Editor, puppet: Puppet, edits: readonly Edit[], apply: Parameters<Redirect>[2]): readonly Edit[] {
  const now = recorded(editor, puppet)
  if (!now || edits.every(isAbout)) return edits
  const { selection } = useSession.of(editor).getState()
  const part = selection.kind === 'part' ? (selection.ids[0] ?? null) : null
  try {
    const after = apply(puppet, edits)
    if (isRestructured(puppet, after)) return edits
    const changes = recordedChanges(frameOf(editor, puppet), puppet, after, { ...now, part })
    return [edit(recordStop, { response: now.response.id, stop: now.stop.id, changes })]
  } catch (error) {
    if (error instanceof FoldedError) throw new EditError(error.message)
    throw error
  }
}

/** Lays recording around all edits; returns how to end this. */
export const layRecordingAround = (editor: Editor): (() => void) =>
  layAround(editor, {
    isOn: () => recordingNow(editor) !== null,
    redirect: (puppet, edits, apply) => recordInstead(editor, puppet, edits, apply),
  })

const doneNow = (editor: Editor): number => useDocument.of(editor).getState().history?.done ?? 0

/** Brings inputs to where a stop is, as far as they are channels. */
export function poseAt({ inputs }: Response, at: readonly number[]): Edit[] {
  const values = Object.fromEntries(inputs.flatMap((input, k) => (input.kind === 'channel' ? [[input.channel, nth(at, k)]] : [])))
  return Object.keys(values).length > 0 ? [edit(setPose, { values })] : []
}

function begin(editor: Editor, edits: readonly Edit[], response: string, stop: string, isNew: boolean, label: string): boolean {
  if (recordingNow(editor)) return false
  const since = doneNow(editor)
  if (edits.length > 0 && !perform(editor, edits, label)) return false
  useRecording.of(editor).setState({ recording: { puppet: openPuppet(editor).id, response, stop, since, isNew }, open: response })
  const now = recorded(editor, openPuppet(editor))
  if (now) holdSpeedsOf(editor, now.response, now.stop.at)
  return true
}

/** A name for a response to some inputs that no other has. */
export const freeResponseName = (puppet: Puppet, inputs: readonly Input[]): string =>
  freeName(puppet.responses, inputs.map((input) => inputWords(puppet, input)).join(' and '))

/** Starts a new response to inputs at values and records its first stop. */
export function recordNew(editor: Editor, kind: Response['kind'], inputs: readonly Input[], at: readonly number[]): boolean {
  const puppet = openPuppet(editor)
  const response = { ...newResponse(freshId('response'), freeResponseName(puppet, inputs), kind, [...inputs]) }
  const stop = { id: freshId('stop'), at: [...at], changes: [] }
  const edits = [...poseAt(response, at), edit(addResponse, { response: { ...response, stops: [stop] } })]
  return begin(editor, edits, response.id, stop.id, true, `Record ${response.name}`)
}

/** Records at values of a response's inputs: the stop that is there anew, or a new one. */
export function recordAt(editor: Editor, response: Response, at: readonly number[]): boolean {
  const there = response.stops.find((s) => s.at.every((v, k) => Math.abs(v - nth(at, k)) < 1e-6))
  if (there) return recordAgain(editor, response, there)
  const stop = { id: freshId('stop'), at: [...at], changes: [] }
  return begin(
    editor,
    [edit(addStop, { response: response.id, stop }), ...poseAt(response, at)],
    response.id,
    stop.id,
    true,
    `Record ${response.name}`,
  )
}

/** Goes on recording a stop. */
export const recordAgain = (editor: Editor, response: Response, stop: Stop): boolean =>
  begin(editor, poseAt(response, stop.at), response.id, stop.id, false, `To a stop of ${response.name}`)

/** Twins get theirs by themselves: what answers on one side of twins does so on the other. */
function mirrorToTwins(editor: Editor, response: Response): void {
  const puppet = openPuppet(editor)
  const parts = new Set(
    response.stops.flatMap((s) =>
      s.changes.flatMap((c) => partOfChange(c) ?? /^part\/([^/]+)\//.exec(channelOfChange(c) ?? '')?.[1] ?? []),
    ),
  )
  const isTwin = [...parts].some(
    (id) => otherPart(puppet, id) !== id && Object.values(puppet.parts).some((p) => p.twin?.mirrored && (p.id === id || p.twin.of === id)),
  )
  if (!isTwin) return
  const mirrored = mirroredResponse(puppet, response, 'other', HOST)
  const isOtherSide = JSON.stringify(mirrored.inputs) !== JSON.stringify(response.inputs)
  if (isOtherSide && mirrored.stops.some((s) => s.changes.length > 0))
    perform(editor, [edit(mirrorResponse, { response: response.id, id: freshId('response') })], `${response.name} for its twin`)
}

/** Goes on with a recording that a page that is gone had begun; tells whether it is still there. */
export function resumeRecording(editor: Editor, recording: Recording): boolean {
  const now = recorded(editor, openPuppet(editor), recording)
  if (!now || doneNow(editor) < recording.since) return false
  useRecording.of(editor).setState({ recording, open: recording.response })
  holdSpeedsOf(editor, now.response, now.stop.at)
  return true
}

/** Keeps what was recorded as one entry of the history. */
export function keepRecording(editor: Editor): void {
  const recording = recordingNow(editor)
  const now = recorded(editor, openPuppet(editor))
  useRecording.of(editor).setState({ recording: null })
  releaseSpeeds(editor)
  if (!recording || !now) return
  const count = now.stop.changes.length
  mirrorToTwins(editor, now.response)
  joinSince(
    editor,
    recording.since,
    `Record ${now.response.name} at ${stopWords(openPuppet(editor), now.response, now.stop.at)}: ${counted(count, 'change')}`,
  )
}

/** Drops what was recorded since it began. */
export function discardRecording(editor: Editor): void {
  const recording = recordingNow(editor)
  useRecording.of(editor).setState({ recording: null })
  releaseSpeeds(editor)
  if (recording) backTo(editor, recording.since)
  if (recording && !openPuppet(editor).responses.some((r) => r.id === recording.response)) useRecording.of(editor).setState({ open: null })
}

/** Values of a response's inputs as they are in a frame. */
export function inputsNow(frame: Frame, { inputs }: Pick<Response, 'inputs'>): number[] {
  const { rig } = frame
  return inputs.map((input) => {
    const made = compileInput(rig, input)
    made?.read(frame, 0)
    return made ? nth(frame.inputValues, 0) : (restOfInput(rig.puppet, input, channelOf) ?? 0)
  })
}

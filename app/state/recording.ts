/**
 * Recording a response: as long as it goes on, edits by any tool become changes of its stop instead of changes of the puppet.
 *
 * The puppet in the document is whole at any moment, with what is recorded so far: it is saved, undone and shown like any
 * other. Keeping makes one entry of the history of all; discarding walks back to where it began.
 */
import { create } from 'zustand'
import { freshId } from '@marionette/core/document/ids'
import { newResponse } from '@marionette/core/document/new'
import { channelOfChange, partOfChange, type Input, type Puppet, type Response, type Stop } from '@marionette/core/document/schema'
import { edit, EditError, type Edit } from '@marionette/core/edit/command'
import { mirroredResponse, mirrorResponse, otherPart } from '@marionette/core/edit/mirror'
import { setPose } from '@marionette/core/edit/pose'
import { addResponse, addStop, recordStop } from '@marionette/core/edit/responses'
import { recordedChanges } from '@marionette/core/record/record'
import { compileInput, restOfInput } from '@marionette/core/rig/answers/inputs'
import type { Frame } from '@marionette/core/rig/evaluate'
import { FoldedError } from '@marionette/core/artwork/touch/posedPaths'
import { inputWords, stopWords } from '../responses/words'
import { backTo, joinSince, openPuppet, perform, redirectEdits, useDocument } from './document'
import { askRecording, frameOf } from './own'
import { useSession } from './session'
import { holdSpeedsOf, releaseSpeeds } from './speeds'

export interface Recording {
  readonly puppet: string
  readonly response: string
  readonly stop: string
  /** Changes of the history that were in force before it began. */
  readonly since: number
  /** Whether the stop was made for it. */
  readonly isNew: boolean
}

interface RecordingState {
  recording: Recording | null
  /** The response whose stops are shown, recorded or not. */
  open: string | null
}

export const useRecording = create<RecordingState>(() => ({ recording: null, open: null }))

export const recordingNow = (): Recording | null => useRecording.getState().recording
askRecording(() => recordingNow() !== null)

/** What is being recorded, with its response and stop; null when nothing is, or an undo has taken it away. */
export function recorded(puppet: Puppet, recording = recordingNow()): { response: Response; stop: Stop } | null {
  const response = recording && puppet.responses.find((r) => r.id === recording.response)
  const stop = response?.stops.find((s) => s.id === recording!.stop)
  return response && stop ? { response, stop } : null
}

/** Commands that change responses themselves, and are no part of what is recorded. */
const isAbout = ({ command: { name } }: Edit): boolean => name.startsWith('response.') || name.startsWith('stop.')

redirectEdits((puppet, edits, apply) => {
  const now = recorded(puppet)
  if (!now || edits.every(isAbout)) return edits
  const { selection } = useSession.getState()
  const part = selection.kind === 'part' ? (selection.ids[0] ?? null) : null
  try {
    const changes = recordedChanges(frameOf(puppet), puppet, apply(puppet, edits), { ...now, part })
    return [edit(recordStop, { response: now.response.id, stop: now.stop.id, changes })]
  } catch (error) {
    if (error instanceof FoldedError) throw new EditError(error.message)
    throw error
  }
})

const doneNow = (): number => useDocument.getState().history?.done ?? 0

/** Brings inputs to where a stop is, as far as they are channels. */
export function poseAt({ inputs }: Response, at: readonly number[]): Edit[] {
  const values = Object.fromEntries(inputs.flatMap((input, k) => (input.kind === 'channel' ? [[input.channel, at[k]!]] : [])))
  return Object.keys(values).length > 0 ? [edit(setPose, { values })] : []
}

function begin(edits: readonly Edit[], response: string, stop: string, isNew: boolean, label: string): boolean {
  if (recordingNow()) return false
  const since = doneNow()
  if (edits.length > 0 && !perform(edits, label)) return false
  useRecording.setState({ recording: { puppet: openPuppet().id, response, stop, since, isNew }, open: response })
  const now = recorded(openPuppet())
  if (now) holdSpeedsOf(now.response, now.stop.at)
  return true
}

/** A name for a response to some inputs that no other has. */
export function freeResponseName(puppet: Puppet, inputs: readonly Input[]): string {
  const base = inputs.map((input) => inputWords(puppet, input)).join(' and ')
  const names = new Set(puppet.responses.map((r) => r.name))
  for (let n = 1; ; n++) {
    const name = n === 1 ? base : `${base} ${n}`
    if (!names.has(name)) return name
  }
}

/** Starts a new response to inputs at values and records its first stop. */
export function recordNew(kind: Response['kind'], inputs: readonly Input[], at: readonly number[]): boolean {
  const puppet = openPuppet()
  const response = { ...newResponse(freshId('response'), freeResponseName(puppet, inputs), kind, [...inputs]) }
  const stop = { id: freshId('stop'), at: [...at], changes: [] }
  const edits = [...poseAt(response, at), edit(addResponse, { response: { ...response, stops: [stop] } })]
  return begin(edits, response.id, stop.id, true, `Record ${response.name}`)
}

/** Records at values of a response's inputs: the stop that is there anew, or a new one. */
export function recordAt(response: Response, at: readonly number[]): boolean {
  const there = response.stops.find((s) => s.at.every((v, k) => Math.abs(v - at[k]!) < 1e-6))
  if (there) return recordAgain(response, there)
  const stop = { id: freshId('stop'), at: [...at], changes: [] }
  return begin(
    [edit(addStop, { response: response.id, stop }), ...poseAt(response, at)],
    response.id,
    stop.id,
    true,
    `Record ${response.name}`,
  )
}

/** Goes on recording a stop. */
export const recordAgain = (response: Response, stop: Stop): boolean =>
  begin(poseAt(response, stop.at), response.id, stop.id, false, `To a stop of ${response.name}`)

/** Twins get theirs by themselves: what answers on one side of twins does so on the other. */
function mirrorToTwins(response: Response): void {
  const puppet = openPuppet()
  const parts = new Set(
    response.stops.flatMap((s) =>
      s.changes.flatMap((c) => partOfChange(c) ?? /^part\/([^/]+)\//.exec(channelOfChange(c) ?? '')?.[1] ?? []),
    ),
  )
  const isTwin = [...parts].some(
    (id) => otherPart(puppet, id) !== id && Object.values(puppet.parts).some((p) => p.twin?.mirrored && (p.id === id || p.twin.of === id)),
  )
  if (!isTwin) return
  const mirrored = mirroredResponse(puppet, response, 'other')
  const isOtherSide = JSON.stringify(mirrored.inputs) !== JSON.stringify(response.inputs)
  if (isOtherSide && mirrored.stops.some((s) => s.changes.length > 0))
    perform([edit(mirrorResponse, { response: response.id, id: freshId('response') })], `${response.name} for its twin`)
}

/** Goes on with a recording that a page that is gone had begun; tells whether it is still there. */
export function resumeRecording(recording: Recording): boolean {
  const now = recorded(openPuppet(), recording)
  if (!now || doneNow() < recording.since) return false
  useRecording.setState({ recording, open: recording.response })
  holdSpeedsOf(now.response, now.stop.at)
  return true
}

/** Keeps what was recorded as one entry of the history. */
export function keepRecording(): void {
  const recording = recordingNow()
  const now = recorded(openPuppet())
  useRecording.setState({ recording: null })
  releaseSpeeds()
  if (!recording || !now) return
  const count = now.stop.changes.length
  mirrorToTwins(now.response)
  joinSince(
    recording.since,
    `Record ${now.response.name} at ${stopWords(openPuppet(), now.response, now.stop.at)}: ${count} ${count === 1 ? 'change' : 'changes'}`,
  )
}

/** Drops what was recorded since it began. */
export function discardRecording(): void {
  const recording = recordingNow()
  useRecording.setState({ recording: null })
  releaseSpeeds()
  if (recording) backTo(recording.since)
  if (recording && !openPuppet().responses.some((r) => r.id === recording.response)) useRecording.setState({ open: null })
}

/** Values of a response's inputs as they are in a frame. */
export function inputsNow(frame: Frame, { inputs }: Pick<Response, 'inputs'>): number[] {
  const { rig } = frame
  return inputs.map((input) => {
    const made = compileInput(rig, input)
    made?.read(frame, 0)
    return made ? frame.heard[0]! : (restOfInput(rig.puppet, input) ?? 0)
  })
}

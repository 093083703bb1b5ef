/** Recording at what is posed: of a channel or two, of a control, of a response that is there, of all that is away from rest. */
import { isForPeople } from '@marionette/core/controls/records'
import { channelOf } from '@marionette/core/puppet/channels'
import { controlChannel, type Control, type Input, type Puppet, type Response } from '@marionette/core/puppet/schema'
import { restOfInput } from '@marionette/core/responses/inputs'
import { axesFor } from '@marionette/core/reports/randomPose'
import { openPuppet } from '../../editor/document'
import { posedFrame, valueSeen } from '../../editor/poseInverse'
import { isRestShownIn, useSession } from '../../editor/session'
import { inputsNow, recordAgain, recordAt, recordingNow, recordNew } from './recording'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { sayKeepFirst } from './guard'
import { inputUnit, shortNumber, stopWords } from './words'

/** Inputs of one correction at most. */
export const MOST_INPUTS = 6

const AWAY = 1e-6

const input = (channel: string): Input => ({ kind: 'channel', channel })

export const isAway = (editor: Editor, puppet: Puppet, address: string): boolean =>
  Math.abs(valueSeen(editor, address) - (channelOf(puppet, address)?.rest ?? 0)) > AWAY

/** What would be recorded of channels as they are posed. */
export interface Here {
  readonly kind: 'ruler' | 'pad'
  readonly inputs: readonly Input[]
  readonly at: readonly number[]
  /** Where that is, in words. */
  readonly words: string
}

/** Two channels make a pad, of others the first one that is away from rest counts; null where all are at rest. */
export function hereOf(editor: Editor, puppet: Puppet, channels: readonly string[]): Here | null {
  const away = channels.filter((address) => isAway(editor, puppet, address))
  const [first] = away
  if (first === undefined) return null
  const kind = channels.length === 2 ? 'pad' : 'ruler'
  const inputs = (kind === 'pad' ? channels : [first]).map(input)
  const at = (kind === 'pad' ? channels : [first]).map((address) => valueSeen(editor, address))
  const unit = kind === 'pad' ? '' : inputUnit(puppet, nth(inputs, 0))
  return { kind, inputs, at, words: `${at.map(shortNumber).join(', ')}${unit}` }
}

/** Whether something is recorded already; says so. */
function isBusy(editor: Editor): boolean {
  const busy = recordingNow(editor) !== null
  if (busy) sayKeepFirst(editor)
  return busy
}

/** Whether the stage shows the rest, in which nothing answers, or something is recorded already; says so. */
function isHindered(editor: Editor): boolean {
  if (!isRestShownIn(useSession.of(editor).getState())) return isBusy(editor)
  editor.notify.error('Bones shows the rest, where nothing answers: record in Shape or in Face.')
  return true
}

/** Records there: into the response that has these inputs, or a new one. */
export function recordHere(editor: Editor, { kind, inputs, at }: Here): boolean {
  if (isBusy(editor)) return false
  const there = openPuppet(editor).responses.find((r) => r.kind === kind && JSON.stringify(r.inputs) === JSON.stringify(inputs))
  return there ? recordAt(editor, there, at) : recordNew(editor, kind, inputs, at)
}

/** The channels of a control: its ways, or the angle of its bone. */
export const channelsOfControl = (control: Control): string[] => axesFor(control).map((axis) => controlChannel(control, axis))

/** Records where a control is; at rest it says what to do first. */
export function recordControl(editor: Editor, id: string): void {
  if (isHindered(editor)) return
  const puppet = openPuppet(editor)
  const control = puppet.controls.find((c) => c.id === id)
  const here = control && hereOf(editor, puppet, channelsOfControl(control))
  if (here) recordHere(editor, here)
  else if (control) editor.notify.error(`${control.name} is at rest, and rest stays as it is: move it first.`)
}

/** What would be recorded of a response that is there: where its inputs are, or its farthest stop once more where they are at rest. */
export function nextOf(editor: Editor, puppet: Puppet, response: Response): { readonly words: string; readonly isAgain: boolean } | null {
  const at = inputsNow(posedFrame(editor), response)
  if (isOffRest(puppet, response, at)) return { words: stopWords(puppet, response, at), isAgain: false }
  const stop = farthestStop(puppet, response)
  return stop ? { words: stopWords(puppet, response, stop.at), isAgain: true } : null
}

const isOffRest = (puppet: Puppet, { inputs }: Response, at: readonly number[]): boolean =>
  at.some((v, k) => Math.abs(v - (restOfInput(puppet, nth(inputs, k), channelOf) ?? 0)) > AWAY)

function farthestStop(puppet: Puppet, { inputs, stops }: Response): Response['stops'][number] | undefined {
  const far = (at: readonly number[]): number => Math.hypot(...at.map((v, k) => v - (restOfInput(puppet, nth(inputs, k), channelOf) ?? 0)))
  return [...stops].sort((a, b) => far(b.at) - far(a.at))[0]
}

/** Records a response where its inputs are, or its farthest stop once more. */
export function recordResponse(editor: Editor, id: string): void {
  if (isHindered(editor)) return
  const puppet = openPuppet(editor)
  const response = puppet.responses.find((r) => r.id === id)
  if (!response) return
  const at = inputsNow(posedFrame(editor), response)
  const stop = farthestStop(puppet, response)
  if (isOffRest(puppet, response, at)) recordAt(editor, response, at)
  else if (stop) recordAgain(editor, response, stop)
  else editor.notify.error(`${response.name} has no stop yet: move what it answers to first.`)
}

/** Controls that are away from rest. */
export const controlsAway = (editor: Editor, puppet: Puppet): Control[] =>
  puppet.controls.filter((c) => isForPeople(c) && channelsOfControl(c).some((address) => isAway(editor, puppet, address)))

/** Records a correction for some channels together, where they are. */
export function recordTogether(editor: Editor, addresses: readonly string[]): boolean {
  if (isBusy(editor)) return false
  const own = addresses.slice(0, MOST_INPUTS)
  return recordNew(
    editor,
    'correction',
    own.map(input),
    own.map((address) => valueSeen(editor, address)),
  )
}

/** Records what all controls that are away from rest do together; one alone is recorded by itself. */
export function recordPosed(editor: Editor): void {
  if (isHindered(editor)) return
  const puppet = openPuppet(editor)
  const away = controlsAway(editor, puppet)
  if (away.length === 0) return void editor.notify.error('All controls are at rest, and rest stays as it is: move one first.')
  if (away.length === 1) return recordControl(editor, nth(away, 0).id)
  recordTogether(
    editor,
    away.flatMap(channelsOfControl).filter((address) => isAway(editor, puppet, address)),
  )
}

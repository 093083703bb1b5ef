/** Commands on responses and their stops. */
import { z } from 'zod'
import { count } from '../kernel/numbers'
import { ResponseId, StopId } from '../kernel/ids'
import { Change, changeKey, Response, Stop } from './records'
import type { Puppet } from '../puppet/schema'
import { restOfInput } from './inputs'
import { command, type Host } from '../kernel/command'
import { EditError } from '../kernel/errors'

function responseAt(puppet: Puppet, id: string): number {
  const at = puppet.responses.findIndex((r) => r.id === id)
  if (at < 0) throw new EditError(`There is no response "${id}" in this puppet.`)
  return at
}

/** A response of a puppet; throws an EditError where there is none with this id. */
export const responseOf = (puppet: Puppet, id: string): Response => puppet.responses[responseAt(puppet, id)]!

function stopAt({ stops, name }: Response, id: string): number {
  const at = stops.findIndex((s) => s.id === id)
  if (at < 0) throw new EditError(`“${name}” has no stop "${id}".`)
  return at
}

/** Distance within which two stops are in one place. */
const SAME = 1e-9

function checkStop(puppet: Puppet, response: Response, stop: Stop, { channelOf }: Host): void {
  if (stop.at.length !== response.inputs.length) throw new EditError('A stop needs one number for each input.')
  const isAt = (at: readonly number[]): boolean => at.every((v, k) => Math.abs(v - stop.at[k]!) < SAME)
  if (isAt(response.inputs.map((input) => restOfInput(puppet, input, channelOf) ?? NaN)))
    throw new EditError('Rest stays as it is: bring the input away from rest first.')
  const there = response.stops.find((s) => s.id !== stop.id && isAt(s.at))
  if (there) throw new EditError('There is a stop in this place already.')
  if (new Set(stop.changes.map(changeKey)).size < stop.changes.length) throw new EditError('A stop changes one thing twice.')
}

function checkResponse(puppet: Puppet, response: Response, host: Host): void {
  if (!response.inputs.every((input) => restOfInput(puppet, input, host.channelOf) !== null))
    throw new EditError(`“${response.name}” would listen to what is not there.`)
  const seen = new Set(response.inputs.map((input) => JSON.stringify(input)))
  if (seen.size < response.inputs.length) throw new EditError('A response listens to each input once.')
  for (const stop of response.stops) checkStop(puppet, response, stop, host)
}

/** Adds a response. Refused where its id is taken, or an input or a channel of it is not there. */
export const addResponse = command('response.add', 'Add response', z.object({ response: Response }), (puppet, { response }, host) => {
  if (puppet.responses.some((r) => r.id === response.id)) throw new EditError(`There is already a response "${response.id}".`)
  checkResponse(puppet, response, host)
  puppet.responses.push(response)
})

/** Replaces a response by another form of it, stops included. */
export const setResponse = command('response.set', 'Change response', z.object({ response: Response }), (puppet, { response }, host) => {
  const at = responseAt(puppet, response.id)
  checkResponse(puppet, response, host)
  puppet.responses[at] = response
})

/** Deletes a response. */
export const deleteResponse = command('response.delete', 'Delete response', z.object({ response: ResponseId }), (puppet, { response }) => {
  puppet.responses.splice(responseAt(puppet, response), 1)
})

/** Moves a response in the order in which they act. */
export const orderResponse = command(
  'response.order',
  'Reorder responses',
  z.object({ response: ResponseId, index: count }),
  (puppet, { response, index }) => {
    const [moved] = puppet.responses.splice(responseAt(puppet, response), 1)
    puppet.responses.splice(Math.min(index, puppet.responses.length), 0, moved!)
  },
)

/** Adds a stop to a response. Refused where its id is taken or it does not fit the inputs. */
export const addStop = command(
  'stop.add',
  'Add stop',
  z.object({ response: ResponseId, stop: Stop }),
  (puppet, { response, stop }, host) => {
    const owner = responseOf(puppet, response)
    if (owner.stops.some((s) => s.id === stop.id)) throw new EditError(`“${owner.name}” has a stop "${stop.id}" already.`)
    checkStop(puppet, owner, stop, host)
    owner.stops.push(stop)
  },
)

/** Moves a stop to another place of its inputs. */
export const moveStop = command(
  'stop.move',
  'Move stop',
  z.object({ response: ResponseId, stop: StopId, at: Stop.shape.at }),
  (puppet, { response, stop, at }, host) => {
    const owner = responseOf(puppet, response)
    const moved = owner.stops[stopAt(owner, stop)]!
    checkStop(puppet, owner, { ...moved, at }, host)
    moved.at = at
  },
)

/** Sets what a stop changes. */
export const recordStop = command(
  'stop.record',
  'Record',
  z.object({ response: ResponseId, stop: StopId, changes: z.array(Change) }),
  (puppet, { response, stop, changes }, host) => {
    const owner = responseOf(puppet, response)
    const recorded = { ...owner.stops[stopAt(owner, stop)]!, changes }
    checkStop(puppet, owner, recorded, host)
    owner.stops[stopAt(owner, stop)] = recorded
  },
)

/** Deletes a stop with all that was recorded in it. */
export const deleteStop = command(
  'stop.delete',
  'Delete stop',
  z.object({ response: ResponseId, stop: StopId }),
  (puppet, { response, stop }) => {
    const owner = responseOf(puppet, response)
    owner.stops.splice(stopAt(owner, stop), 1)
  },
)

/** Responses in the interface: what answers to a part or a bone, recording, wiring. */
import { layRecordingAround } from './recording'
import { lazy } from 'react'
import { boneChannel } from '@marionette/core/bones/channels'
import { addressesOf } from '@marionette/core/puppet/channels'
import type { Feature } from '../../panels/feature'
import { RESPONSE_ACTIONS } from './actions'
import { drawRecordMarks } from './recordMarks'
import { RespondsGroup } from './RespondsGroup'
import { openResponse } from './ResponseList'

type About = { readonly ids: readonly string[] }

const RespondsToPart = ({ ids: [id = ''] }: About) => <RespondsGroup family="part" id={id} channels={addressesOf('part', id)} />
const RespondsToBone = ({ ids: [id = ''] }: About) => <RespondsGroup family="bone" id={id} channels={[boneChannel(id, 'angle')]} />

export const responses: Feature = {
  name: 'responses',
  connect: layRecordingAround,
  details: [
    { about: 'part', place: 30, shows: ({ puppet, ids }) => ids[0] !== puppet.root, Group: RespondsToPart },
    { about: 'bone', place: 30, shows: ({ bench }) => bench !== 'bones', Group: RespondsToBone },
  ],
  marks: [{ layer: 'last', draw: drawRecordMarks }],
  actions: RESPONSE_ACTIONS,
  finds: (puppet) =>
    puppet.responses.map(({ id, name }) => ({
      ...{ id, name, kind: 'Response', benches: ['shape', 'face'] },
      show: (editor) => openResponse(editor, id),
    })),
  sheets: { wiring: lazy(() => import('./WiringSheet')), turn: lazy(() => import('./TurnSheet')) },
}

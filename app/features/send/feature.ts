/** Taking away, in the interface. */
import type { Feature } from '../../panels/feature'
import { SEND_ACTIONS } from './actions'

export const send: Feature = { name: 'send', actions: SEND_ACTIONS }

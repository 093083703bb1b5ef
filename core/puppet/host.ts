/** What commands are told of all capabilities together. */
import type { Host } from '../kernel/command'
import { channelOf } from './channels'
import { copiedPart, copyAlong } from './copying'
import { mirrorSign, otherAddress } from './mirror'

/** What commands of one capability may ask of all others. */
export const HOST: Host = { channelOf, otherAddress, mirrorSign, copyAlong, copiedPart }

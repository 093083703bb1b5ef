/** What of a camera can be keyed: where it looks, how near, and how it is turned. */
import { channelAddress, type ChannelFamily } from '../kernel/channel'
import type { Puppet } from '../puppet/schema'
import { ZOOMS, type Camera } from './records'

const FIELDS = {
  x: { kind: 'scalar', rest: 0, label: 'Camera x', unit: 'px' },
  y: { kind: 'scalar', rest: 0, label: 'Camera y', unit: 'px' },
  zoom: { kind: 'scale', rest: 1, label: 'Camera zoom', unit: '×', min: ZOOMS.farthest, max: ZOOMS.nearest },
  angle: { kind: 'angle', rest: 0, label: 'Camera angle', unit: '°' },
} as const

/** Fields of a camera that have channels. */
export type CameraField = keyof typeof FIELDS
export const CAMERA_FIELDS = Object.keys(FIELDS) as CameraField[]

/** The camera of a puppet, where it has one. It moves nothing of the puppet, so that a rig has no place for it. */
export const cameraChannels: ChannelFamily<Puppet> = {
  family: 'camera',
  fields: FIELDS,
  moves: false,
  records: (puppet) => (puppet.stage.camera ? [puppet] : []),
  find: (puppet, id) => (puppet.id === id && puppet.stage.camera ? puppet : undefined),
  own: ({ stage: { camera } }, field) => (camera ? { rest: camera[field as CameraField] } : {}),
}

/** Address of a channel of the camera. */
export const cameraChannel = ({ id }: Pick<Puppet, 'id'>, field: CameraField): string => channelAddress('camera', id, field)

/** The camera as a pose has it; null where the puppet has none. */
export function cameraIn(puppet: Puppet, pose: Readonly<Record<string, number>> = puppet.pose): Camera | null {
  const { camera } = puppet.stage
  if (!camera) return null
  const posed = Object.fromEntries(CAMERA_FIELDS.map((field) => [field, pose[cameraChannel(puppet, field)] ?? camera[field]]))
  return { ...camera, ...posed }
}

/** A made-up capability: bells hang on bones and swing. Nothing but this file and its lines in the tables knows them. */
import { z } from 'zod'
import { BoneId } from '../../kernel/ids'
import { Name } from '../../kernel/numbers'
import { filed, type ChannelFamily } from '../../kernel/channel'
import type { Capability } from '../../kernel/capability'
import { command } from '../../kernel/command'
import { EditError } from '../../kernel/errors'
import { filedKind } from '../../kernel/records'
import { counterpart, otherSide } from '../../kernel/sides'
import type { Puppet } from '../../puppet/schema'

export const Bell = z.object({ id: z.string().min(1), name: Name, bone: BoneId, loud: z.number().min(0).max(1) })
export type Bell = z.infer<typeof Bell>
export const Bells = z.record(z.string(), Bell)

/** The bells of a puppet: its type does not know them, as they are made up. */
export const bellsOf = (puppet: Puppet): Record<string, Bell> => (puppet as unknown as { bells: Record<string, Bell> }).bells

export const addBell = command('bell.add', 'Hang up a bell', Bell, (puppet, bell) => {
  if (bellsOf(puppet)[bell.id]) throw new EditError(`There is already a bell "${bell.id}".`)
  bellsOf(puppet)[bell.id] = bell
})

const bellChannels: ChannelFamily<Bell> = {
  family: 'bell',
  fields: { swing: { kind: 'angle', rest: 0, label: 'Swing', unit: '°', min: -60, max: 60 } },
  moves: true,
  records: (puppet) => Object.values(bellsOf(puppet)),
  find: (puppet, id) => filed(bellsOf(puppet), id),
  other: (puppet, id) => counterpart(Object.values(bellsOf(puppet)), id),
  turns: () => true,
}

export const bells: Capability = {
  name: 'bells',
  kinds: [filedKind('bell', 'bell', 'bells' as keyof Puppet)],
  references: [{ at: 'bells/*/bone', to: 'bone', says: 'hangs on', gone: { drop: 'bells/*' } }],
  copyAlong(puppet, { source, isCopied, renamed, name, prefix }) {
    for (const bell of Object.values(bellsOf(source)))
      if (isCopied('bone', bell.bone)) {
        const id = `${prefix}-${bell.id}`
        bellsOf(puppet)[id] = { ...bell, id, name: otherSide(bell.name) ?? name(bell.name), bone: renamed('bone', bell.bone) }
      }
  },
  channels: [bellChannels],
  commands: [{ addBell }],
}

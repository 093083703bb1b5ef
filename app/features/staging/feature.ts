/** What stands around the puppet, in the interface. */
import { newShadow } from '@marionette/core/staging/shadow'
import { setShadow } from '@marionette/core/staging/commands'
import { edit } from '@marionette/core/kernel/command'
import { openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import type { Feature } from '../../panels/feature'
import { figureBox } from './figure'
import { ShadowGroup } from './ShadowGroup'

function shadowOnOrOff(editor: Editor): void {
  const { shadow } = openPuppet(editor)
  const { feet, height } = figureBox(openPuppet(editor))
  perform(
    editor,
    [edit(setShadow, { shadow: shadow ? null : newShadow('ground', feet, height) })],
    shadow ? 'Take off shadow' : 'Put on shadow',
  )
}

export const staging: Feature = {
  name: 'staging',
  details: [{ about: 'puppet', place: 60, Group: ShadowGroup }],
  actions: [
    {
      id: 'shadow',
      label: 'Shadow on or off',
      words: 'ground drop cast stage',
      group: 'View',
      run: ({ editor }) => shadowOnOrOff(editor),
    },
  ],
}

/** What stands around the puppet, in the interface. */
import { lazy } from 'react'
import { newShadow } from '@marionette/core/staging/shadow'
import { setShadow } from '@marionette/core/staging/commands'
import { edit } from '@marionette/core/kernel/command'
import { openPuppet, perform } from '../../editor/document'
import type { Editor } from '../../editor/editor'
import { inBelts, type Feature } from '../../panels/feature'
import { chosen } from '../../panels/chosen'
import { cameraTool } from './cameraTool'
import { figureBox } from './figure'
import { cameraLens, LookingBar, lookThroughCamera, useLooking } from './looking'
import { makeScenery } from './scenery'
import { ShadowGroup } from './ShadowGroup'
import { cameraMark, groundMark } from './stageMarks'

function shadowOnOrOff(editor: Editor): void {
  const { shadow } = openPuppet(editor)
  const { feet, height } = figureBox(openPuppet(editor))
  perform(
    editor,
    [edit(setShadow, { shadow: shadow ? null : newShadow('ground', feet, height) })],
    shadow ? 'Take off shadow' : 'Put on shadow',
  )
}

const StageGroup = lazy(() => import('./StageGroup'))
const SceneryGroup = lazy(() => import('./SceneryGroup'))

export const staging: Feature = {
  name: 'staging',
  details: [
    { about: 'puppet', place: 58, shows: ({ bench }) => bench === 'rehearse' || bench === 'send', Group: StageGroup },
    { about: 'puppet', place: 60, Group: ShadowGroup },
    { about: 'part', place: 95, shows: ({ puppet, ids, bench }) => bench === 'parts' && !ids.includes(puppet.root), Group: SceneryGroup },
  ],
  tools: inBelts(cameraTool, { rehearse: 60 }),
  marks: [groundMark, cameraMark],
  lens: cameraLens,
  bars: [LookingBar],
  actions: [
    {
      id: 'camera.look',
      label: 'Look through the camera, or leave it',
      words: 'frame shot preview',
      group: 'View',
      enabled: (editor) => openPuppet(editor).stage.camera !== null,
      run: ({ editor }) => lookThroughCamera(editor, !useLooking.of(editor).getState().isThrough),
    },
    ...(['background', 'foreground'] as const).map((where) => ({
      id: `scenery.${where}`,
      label: where === 'background' ? 'Scenery behind the puppet' : 'Scenery in front of the puppet',
      words: 'set background foreground stand still',
      group: 'Parts and bones' as const,
      run: ({ editor }: { editor: Editor }) => makeScenery(editor, chosen(editor, 'part'), where),
    })),
    {
      id: 'shadow',
      label: 'Shadow on or off',
      words: 'ground drop cast stage',
      group: 'View',
      run: ({ editor }) => shadowOnOrOff(editor),
    },
  ],
}

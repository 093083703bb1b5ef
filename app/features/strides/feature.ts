/** Strides and idle life in the interface. */
import { lazy } from 'react'
import type { Feature, Seen } from '../../panels/feature'
import { openPuppet } from '../../editor/document'
import { selectNothing } from '../../editor/session'
import { BoneStride } from './BoneStride'
import { groundTool } from './groundTool'
import { endTrial, makeIdle, makeStride, stopTrial, tryStride, useTrial } from './walking'

const StrideGroup = lazy(() => import('./StrideGroup'))
const IdleGroup = lazy(() => import('./IdleGroup'))

const hasBones = ({ puppet, bench }: Seen): boolean => puppet.skeleton.length > 0 && (bench === 'bones' || bench === 'rehearse')

export const strides: Feature = {
  name: 'strides',
  connect: endTrial,
  details: [
    { about: 'puppet', place: 56, shows: hasBones, Group: StrideGroup },
    { about: 'bone', place: 62, shows: hasBones, Group: BoneStride },
    { about: 'puppet', place: 57, shows: hasBones, Group: IdleGroup },
  ],
  tools: [{ bench: 'rehearse', place: 70, tool: groundTool }],
  actions: [
    {
      id: 'stride.walk',
      label: 'Walk on the spot',
      words: 'stride gait walk run trot legs cycle',
      group: 'Parts and bones',
      enabled: (editor) => openPuppet(editor).skeleton.length > 0,
      run: ({ editor }) => {
        const [stride] = openPuppet(editor).strides
        if (!stride) makeStride(editor)
        else if (useTrial.of(editor).getState().stride === stride.id) stopTrial(editor)
        else tryStride(editor, stride.id)
      },
    },
    {
      id: 'idle.add',
      label: 'Let it breathe and blink',
      words: 'idle life breath blink glance alive',
      group: 'Parts and bones',
      enabled: (editor) => openPuppet(editor).idles.length === 0 && openPuppet(editor).skeleton.length > 0,
      run: ({ editor }) => makeIdle(editor),
    },
  ],
  finds: ({ strides: all }) =>
    all.map(({ id, name }) => ({
      ...{ id, name, kind: 'Stride', benches: ['bones', 'rehearse'] },
      show: (editor) => selectNothing(editor),
    })),
}

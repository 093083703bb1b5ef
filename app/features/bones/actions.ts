/** What can be done with selected bones. */
import { lockBones } from '@marionette/core/skeleton/lines'
import {
  chainThrough,
  copyBones,
  hasCopiedBones,
  mirrorSelected,
  pasteCopied,
  reverseSelected,
  splitSelected,
  straightenSelected,
} from './boneMaking'
import { openPuppet, perform } from '../../editor/document'
import { edit } from '@marionette/core/kernel/command'
import type { Action } from '../../panels/action'
import { chosen } from '../../panels/chosen'
import type { Editor } from '../../editor/editor'
import { nth } from '@marionette/core/kernel/sure'
import { boneOf } from '@marionette/core/bones/lookup'

/** Bones in a chain that is laid through a part by a command; the details take any number. */
const CHAIN_BONES = 4

function toggleBonesLocked(editor: Editor): void {
  const bones = [...chosen(editor, 'bone')]
  const locked = !bones.every((id) => boneOf(openPuppet(editor), id).locked)
  perform(editor, [edit(lockBones, { bones, locked })], locked ? 'Lock bones' : 'Unlock bones')
}

export const BONE_ACTIONS: readonly Action[] = [
  {
    id: 'mirror',
    menu: { bone: 2 },
    label: 'Mirror bones to the other side',
    group: 'Parts and bones',
    enabled: (editor) => chosen(editor, 'bone').length > 0,
    run: ({ editor }) => mirrorSelected(editor, chosen(editor, 'bone')),
  },
  {
    id: 'split',
    menu: { bone: 2 },
    label: 'Split bones in two',
    group: 'Parts and bones',
    enabled: (editor) => chosen(editor, 'bone').length > 0,
    run: ({ editor }) => splitSelected(editor, chosen(editor, 'bone'), 2),
  },
  {
    id: 'straighten',
    menu: { bone: 2 },
    label: 'Straighten chain of bones',
    group: 'Parts and bones',
    enabled: (editor) => chosen(editor, 'bone').length > 1,
    run: ({ editor }) => straightenSelected(editor, chosen(editor, 'bone')),
  },
  {
    id: 'reverse',
    menu: { bone: 2 },
    label: 'Reverse chain of bones',
    group: 'Parts and bones',
    enabled: (editor) => chosen(editor, 'bone').length > 0,
    run: ({ editor }) => reverseSelected(editor, chosen(editor, 'bone')),
  },
  {
    id: 'chain',
    menu: { bone: 2 },
    label: 'Chain of bones through a part',
    group: 'Parts and bones',
    enabled: (editor) => chosen(editor, 'part').length === 1,
    run: ({ editor }) => void chainThrough(editor, nth(chosen(editor, 'part'), 0), CHAIN_BONES),
  },
  {
    id: 'copyBones',
    menu: { bone: 3 },
    label: 'Copy bones',
    group: 'Parts and bones',
    keys: 'mod+c',
    enabled: (editor) => chosen(editor, 'bone').length > 0,
    run: ({ editor }) => copyBones(editor, chosen(editor, 'bone')),
  },
  {
    id: 'pasteBones',
    menu: { bone: 3 },
    label: 'Paste bones',
    group: 'Parts and bones',
    keys: 'mod+v',
    enabled: hasCopiedBones,
    run: ({ editor }) => pasteCopied(editor, chosen(editor, 'bone')[0] ?? null),
  },
  {
    id: 'lockBones',
    menu: { bone: 3 },
    label: 'Lock or unlock bones',
    group: 'Parts and bones',
    enabled: (editor) => chosen(editor, 'bone').length > 0,
    run: ({ editor }) => toggleBonesLocked(editor),
  },
]

/** A kind of deformer and a capability that do not exist, in the interface: with nothing but their own entries in the tables. */
import { Bell as BellIcon, Wind } from 'lucide-react'
import React, { createElement } from 'react'
import { Tooltip } from 'radix-ui'
import { renderToStaticMarkup } from 'react-dom/server'
import { MemoryRouter } from 'react-router'
import { beforeAll, expect, test, vi } from 'vitest'
import { addDeformer } from '@marionette/core/deformers/commands'
import type { Deformer } from '@marionette/core/deformers/records'
import { run } from '@marionette/core/puppet/edit'
import { addBell } from '@marionette/core/test/madeUp/bells'
import { armPuppet } from '@marionette/core/test/puppets'
import type { Puppet } from '@marionette/core/puppet/schema'
import { openDocument } from '../editor/document'
import { selectParts } from '../editor/session'
import { EditorProvider } from '../editor/editor'
import { quietEditor } from '../test/quietEditor'
import { ACTIONS } from './actions'
import { Details } from './Details'

vi.mock('@marionette/core/deformers/table', async (original) => {
  const { DEFORMER_KINDS } = await original<typeof import('@marionette/core/deformers/table')>()
  const { swayKind } = await import('@marionette/core/test/madeUp/sway')
  return { DEFORMER_KINDS: { ...DEFORMER_KINDS, sway: swayKind } }
})
vi.mock('@marionette/core/puppet/records', async (original) => {
  const { RECORDS } = await original<typeof import('@marionette/core/puppet/records')>()
  const { Bells } = await import('@marionette/core/test/madeUp/bells')
  return { RECORDS: { ...RECORDS, bells: Bells } }
})
vi.mock('@marionette/core/puppet/capabilities', async (original) => {
  const { CAPABILITIES } = await original<typeof import('@marionette/core/puppet/capabilities')>()
  const { bells } = await import('@marionette/core/test/madeUp/bells')
  return { CAPABILITIES: [...CAPABILITIES, bells] }
})
vi.mock('../features/deformers/table', async (original) => {
  const { DEFORMER_VIEWS, viewOf } = await original<typeof import('../features/deformers/table')>()
  const sway = {
    label: 'Sway',
    icon: Wind,
    action: 'Let the part sway',
    aroundSeveral: false,
    handles: 'square',
    turns: false,
    hasBars: false,
  }
  return {
    DEFORMER_VIEWS: { ...DEFORMER_VIEWS, sway },
    viewOf: (d: { kind: string }) => (d.kind === 'sway' ? sway : viewOf(d as Deformer)),
  }
})
vi.mock('../features/features', async (original) => {
  const { FEATURES } = await original<typeof import('../features/features')>()
  const BellsGroup = () => createElement('section', { 'aria-label': 'Bells' }, createElement(BellIcon), 'Ding')
  const bells = {
    name: 'bells',
    details: [{ about: 'part', place: 65, Group: BellsGroup }],
    actions: [{ id: 'bell', label: 'Ring all bells', group: 'Pose', run: () => undefined }],
  }
  return { FEATURES: [...FEATURES, bells] }
})

const { editor } = quietEditor()

const sway = { kind: 'sway', id: 'breeze', name: 'Breeze', when: 'before', bone: null, on: true, amount: 1, only: null, at: { x: 0, y: 0 } }

beforeAll(() => {
  // Rendered to text, stores would show what they began with.
  vi.spyOn(React, 'useSyncExternalStore').mockImplementation((_, snapshot) => snapshot())
  const bare = { ...armPuppet(), bells: {} } as unknown as Puppet
  const part = Object.values(bare.parts).find((p) => p.content.kind === 'drawing')!.id
  const swaying = run(bare, addDeformer, { part, deformer: sway as unknown as Deformer })
  openDocument(editor, { puppet: run(swaying, addBell, { id: 'ding', name: 'Bell', bone: 'lower', loud: 1 }), revision: 1 })
  selectParts(editor, part)
})

test('stand in the command search', () => {
  expect(ACTIONS.map((a) => a.label)).toEqual(expect.arrayContaining(['Let the part sway', 'Ring all bells', 'Put a cage on the part']))
})

test('are listed in the details, in their place', () => {
  const page = renderToStaticMarkup(
    createElement(
      MemoryRouter,
      null,
      createElement(Tooltip.Provider, null, createElement(EditorProvider, { value: editor }, createElement(Details))),
    ),
  )
  expect(page).toContain('+ Sway')
  expect(page).toContain('Breeze')
  expect(page.indexOf('Breeze')).toBeLessThan(page.indexOf('Ding'))
  expect(page.indexOf('Ding')).toBeLessThan(page.indexOf('How it shows'))
})

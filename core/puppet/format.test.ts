/** The page on the format names every field that a document of the present version has. */
import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import type { z } from 'zod'
import { Bone } from '../bones/records'
import { Control } from '../controls/records'
import { DEFORMER_KINDS } from '../deformers/table'
import { Joint } from '../joints/records'
import { Response } from '../responses/records'
import { Part } from './part'
import { Clip, ClipLayer, Key, Track } from '../clips/records'
import { CURRENT_VERSION, Puppet } from './schema'

const page = readFileSync(new URL('../../docs/format/README.md', import.meta.url), 'utf8')
const named = new Set([...page.matchAll(/`([^`]+)`/g)].flatMap((m) => m[1]!.split(/[^A-Za-z]+/)))
const fieldsOf = (schema: z.ZodType): string[] => Object.keys((schema as unknown as { shape: Record<string, unknown> }).shape)

test.each([
  ['a puppet', Puppet],
  ['a part', Part],
  ['a bone', Bone],
  ['a joint', Joint],
  ['a control', Control],
  ['a response', Response],
  ['a clip', Clip],
  ['a layer of a clip', ClipLayer],
  ['a track', Track],
  ['a key', Key],
] as const)('of %s', (_, schema) => {
  expect(fieldsOf(schema).filter((field) => !named.has(field))).toEqual([])
})

test('kinds of deformers, and the present version', () => {
  expect(Object.keys(DEFORMER_KINDS).filter((kind) => !named.has(kind))).toEqual([])
  expect(page).toContain(`The version is ${CURRENT_VERSION};`)
})

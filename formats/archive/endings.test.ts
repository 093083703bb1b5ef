/** Archives by the ending of their names: the present one, and the one that they had before. */
import { expect, test } from 'vitest'
import { armPuppet } from '@marionette/core/test/puppets'
import { readPuppetFile } from '../read'
import { writeArchive, ARCHIVE_EXTENSION } from './archive'

test.each(['arm.marionette', 'ARM.Marionette', 'arm.puppet'])('%s is read as an archive', (name) => {
  const read = readPuppetFile(writeArchive(armPuppet(), new Map()), name)
  expect(new Set(Object.keys(read.puppet.bones))).toEqual(new Set(Object.keys(armPuppet().bones)))
})

test('new archives have the present ending', () => expect(ARCHIVE_EXTENSION).toBe('.marionette'))

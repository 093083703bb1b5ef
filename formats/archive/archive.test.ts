import { strToU8, zipSync } from 'fflate'
import { describe, expect, test } from 'vitest'
import { canonicalJson } from '@marionette/core/kernel/json'
import { armPuppet } from '@marionette/core/test/puppets'
import { stemOf } from '../fileNames'
import { readPuppetFile } from '../read'
import { importSvg } from '../svg/import'
import { FormatError } from '../warnings'
import { readArchive, writeArchive } from './archive'

const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
const withPicture = `<svg xmlns="http://www.w3.org/2000/svg"><image width="9" height="9" href="data:image/png;base64,${PIXEL}"/></svg>`

describe('puppet archive', () => {
  test('opens again to an equal document', () => {
    const puppet = armPuppet()
    expect(canonicalJson(readArchive(writeArchive(puppet, new Map(), Uint8Array.of(1, 2, 3))).puppet)).toBe(canonicalJson(puppet))
  })

  test('takes along the pictures that the puppet is painted with, and finds them damaged', () => {
    const { puppet, assets } = importSvg(withPicture, 'picture')
    const [hash, bytes] = [...assets][0]!
    const archive = writeArchive(puppet, new Map([...assets, ['f'.repeat(64), Uint8Array.of(1)]]))
    expect([...readArchive(archive).assets]).toEqual([[hash, bytes]])
    expect(() => readArchive(writeArchive(puppet))).toThrow('a picture or sound of the puppet is missing')
    expect(() => readArchive(writeArchive(puppet, new Map([[hash, Uint8Array.of(7)]])))).toThrow(
      'not the one that the puppet was made with',
    )
  })

  test('equal puppets give equal bytes', () => {
    expect(writeArchive(armPuppet())).toEqual(writeArchive(armPuppet()))
  })

  test.each([
    ['a zip of something else', zipSync({ 'readme.txt': strToU8('hello') }), 'no puppet.json'],
    ['broken JSON', zipSync({ 'puppet.json': strToU8('{') }), 'not readable'],
    ['a foreign document', zipSync({ 'puppet.json': strToU8('{"format":"other"}') }), 'not marked as a puppet'],
    ['a cut-off file', writeArchive(armPuppet()).slice(0, 300), 'cannot be unpacked'],
  ])('%s is refused in one sentence', (_, bytes, words) => {
    expect(() => readArchive(bytes)).toThrow(FormatError)
    expect(() => readArchive(bytes)).toThrow(words)
  })

  test('files are read by what is in them, not by their name', () => {
    expect(readPuppetFile(writeArchive(armPuppet()), 'arm.svg').puppet).toEqual(armPuppet())
    expect(readPuppetFile(strToU8('<svg xmlns="http://www.w3.org/2000/svg"/>'), 'folder/My drawing.bin').puppet.name).toBe('My drawing')
    expect(() => readPuppetFile(Uint8Array.of(0x89, 0x50, 0xff, 0xd8, 0), 'a.svg')).toThrow('no artwork that can be read')
    expect(() => readPuppetFile(strToU8('hello'), 'a.svg')).toThrow('no artwork')
    expect(() => readPuppetFile(new Uint8Array(), 'a.svg')).toThrow('empty')
  })

  test('names lose folders and extension', () => {
    expect(stemOf('C:\\art\\marlo.final.svg')).toBe('marlo.final')
    expect(stemOf('.svg')).toBe('Untitled')
  })
})

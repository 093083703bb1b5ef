/** What assets are is told by their bytes. */
import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { sniffAsset, sniffPicture, sniffSound } from './assets'

const sample = (name: string): Uint8Array => readFileSync(new URL(`../e2e/sounds/${name}`, import.meta.url))

describe('a sound', () => {
  test.each([
    ['hello.mp3', 'audio/mpeg'],
    ['hello.m4a', 'audio/mp4'],
    ['hello.ogg', 'audio/ogg'],
    ['hello.flac', 'audio/flac'],
  ])('%s is known by its first bytes', (name, type) => {
    expect(sniffSound(sample(name))).toBe(type)
    expect(sniffPicture(sample(name))).toBeNull()
    expect(sniffAsset(sample(name))).toBe(type)
  })

  test('a WAV is known, and no WebP is taken for one', () => {
    const riff = (kind: string): Uint8Array => Uint8Array.from(`RIFF0000${kind}fmt `, (c) => c.charCodeAt(0))
    expect(sniffSound(riff('WAVE'))).toBe('audio/wav')
    expect(sniffSound(riff('WEBP'))).toBeNull()
    expect(sniffPicture(riff('WEBP'))).toBe('image/webp')
  })

  test('bare frames of MPEG audio are known; a JPEG, and bytes of anything, are not', () => {
    expect(sniffSound(Uint8Array.of(0xff, 0xfb, 0x90, 0x00, 1, 2, 3, 4))).toBe('audio/mpeg')
    for (const bytes of [[0xff, 0xd8, 0xff, 0xe0], [0xff, 0xff, 0xff, 0xff], [0x3c, 0x68, 0x74, 0x6d], [], [0xff]])
      expect(sniffSound(Uint8Array.from(bytes))).toBeNull()
  })
})

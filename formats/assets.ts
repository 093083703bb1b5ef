/** Pictures and sounds as they are stored: named by what is in them. */
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'

/** Name of a stored asset: the SHA-256 of its bytes, in hexadecimal. */
export const assetHash = (bytes: Uint8Array): string => bytesToHex(sha256(bytes))

/** Kind of a raster picture by its first bytes, or null. */
export function sniffPicture(bytes: Uint8Array): 'image/png' | 'image/jpeg' | 'image/webp' | 'image/gif' | null {
  const head = String.fromCharCode(...bytes.subarray(0, 12))
  if (head.startsWith('\x89PNG\r\n\x1a\n')) return 'image/png'
  if (head.startsWith('\xff\xd8\xff')) return 'image/jpeg'
  if (head.startsWith('RIFF') && head.slice(8) === 'WEBP') return 'image/webp'
  return head.startsWith('GIF8') ? 'image/gif' : null
}

export type SoundType = 'audio/wav' | 'audio/ogg' | 'audio/flac' | 'audio/mp4' | 'audio/mpeg'

/** Kind of a sound by its first bytes, or null. */
export function sniffSound(bytes: Uint8Array): SoundType | null {
  const head = String.fromCharCode(...bytes.subarray(0, 16))
  if (head.startsWith('RIFF') && head.slice(8, 12) === 'WAVE') return 'audio/wav'
  if (head.startsWith('OggS')) return 'audio/ogg'
  if (head.startsWith('fLaC')) return 'audio/flac'
  // Of the boxes that a film could hold as well, those that sound is kept in.
  if (head.slice(4, 8) === 'ftyp' && /^(M4A |M4B |mp4[12]|isom|iso[2-6]|dash)/.test(head.slice(8, 12))) return 'audio/mp4'
  return isMpeg(bytes, head) ? 'audio/mpeg' : null
}

/** MPEG audio begins with a tag, or with a frame: eleven bits that are set, a layer, a rate that is one. */
function isMpeg(bytes: Uint8Array, head: string): boolean {
  const [first = 0, second = 0, third = 0] = bytes
  if (head.startsWith('ID3')) return true
  const [layer, rate, samples] = [(second >> 1) & 3, third >> 4, (third >> 2) & 3]
  return first === 0xff && (second & 0xe0) === 0xe0 && layer !== 0 && rate !== 0 && rate !== 15 && samples !== 3
}

/** Kind of anything that a puppet may need besides its document, or null. */
export const sniffAsset = (bytes: Uint8Array): string | null => sniffPicture(bytes) ?? sniffSound(bytes)

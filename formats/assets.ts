/** Raster pictures as they are stored: named by what is in them. */
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex } from '@noble/hashes/utils.js'

/** Name of a stored picture: the SHA-256 of its bytes, in hexadecimal. */
export const assetHash = (bytes: Uint8Array): string => bytesToHex(sha256(bytes))

/** Kind of a raster picture by its first bytes, or null. */
export function sniffPicture(bytes: Uint8Array): 'image/png' | 'image/jpeg' | 'image/webp' | 'image/gif' | null {
  const head = String.fromCharCode(...bytes.subarray(0, 12))
  if (head.startsWith('\x89PNG\r\n\x1a\n')) return 'image/png'
  if (head.startsWith('\xff\xd8\xff')) return 'image/jpeg'
  if (head.startsWith('RIFF') && head.slice(8) === 'WEBP') return 'image/webp'
  return head.startsWith('GIF8') ? 'image/gif' : null
}

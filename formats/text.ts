/** Bytes of an XML file as text, by its byte order mark or by the encoding that it names. */
import { FormatError } from './warnings'

/** What is said of a file that is of no kind that is known here. */
export const UNREADABLE = 'This is no artwork that can be read: no SVG, OpenRaster, PSD, PNG or WebP, and no puppet archive.'

/** Throws FormatError where the encoding is unknown or the bytes do not fit it. */
export function decodeText(bytes: Uint8Array): string {
  const label = markOf(bytes) ?? namedEncoding(bytes) ?? 'utf-8'
  let decoder: TextDecoder
  try {
    decoder = new TextDecoder(label, { fatal: true })
  } catch {
    throw new FormatError(
      `The file says that it is written in "${label.slice(0, 40)}", an encoding that is not known here; save it as UTF-8.`,
    )
  }
  try {
    return decoder.decode(bytes)
  } catch {
    if (bytes.includes(0)) throw new FormatError(UNREADABLE)
    throw new FormatError(`The file is damaged: it is not written in ${label.toUpperCase().slice(0, 40)} as it says.`)
  }
}

function markOf(bytes: Uint8Array): string | null {
  const [a, b, c] = bytes
  if (a === 0xff && b === 0xfe) return 'utf-16le'
  if (a === 0xfe && b === 0xff) return 'utf-16be'
  if (a === 0xef && b === 0xbb && c === 0xbf) return 'utf-8'
  // No mark, but every other byte of the opening bracket is empty.
  if (a === 0x3c && b === 0) return 'utf-16le'
  return a === 0 && b === 0x3c ? 'utf-16be' : null
}

/** The encoding that the XML declaration names. */
function namedEncoding(bytes: Uint8Array): string | null {
  const head = String.fromCharCode(...bytes.subarray(0, 200))
  return /^\s*<\?xml[^>]*?encoding\s*=\s*["']([^"']+)["']/.exec(head)?.[1] ?? null
}

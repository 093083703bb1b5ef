/** Names of files. */

/** What files may be called that can be read. */
export const READABLE = /\.(svg|ora|psd|psb|png|webp|jpe?g|puppet)$/i

/** A file by its name. */
export interface NamedFile {
  readonly name: string
  readonly bytes: Uint8Array
}

/** File name without folders. */
export const baseOf = (fileName: string): string => fileName.replace(/^.*[\\/]/, '')

/** File name without folders and extension. */
export const stemOf = (fileName: string): string => baseOf(fileName).replace(/\.[^.]+$/, '') || 'Untitled'

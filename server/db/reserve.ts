/**
 * Room that is kept free for deleting: taking something out of a database has to be written down as well, and on a full disk that
 * fails. A file of nothing holds the room until it is needed.
 */
import { closeSync, existsSync, fsyncSync, openSync, rmSync, statSync, writeSync } from 'node:fs'
import { join } from 'node:path'

const SIZE = 16 * 1024 * 1024
const FILE = 'reserve.bin'

export class Reserve {
  private readonly file: string

  constructor(folder: string) {
    this.file = join(folder, FILE)
  }

  /** Fills it where it is not there whole; a disk without room for it gets none. */
  fill(): void {
    try {
      if (existsSync(this.file) && statSync(this.file).size === SIZE) return
      const handle = openSync(this.file, 'w')
      try {
        // Written out: a file with holes would hold no room.
        const chunk = Buffer.alloc(1024 * 1024, 0xa5)
        for (let at = 0; at < SIZE; at += chunk.length) writeSync(handle, chunk)
        fsyncSync(handle)
      } finally {
        closeSync(handle)
      }
    } catch {
      rmSync(this.file, { force: true })
    }
  }

  /** Gives the room away; tells whether there was any. */
  open(): boolean {
    const isThere = existsSync(this.file)
    rmSync(this.file, { force: true })
    return isThere
  }
}

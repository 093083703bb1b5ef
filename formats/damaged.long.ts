/** 2,000 damaged and 200 grown files of all formats, each with limits of time and memory. */
import { spawn } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import { expect, test } from 'vitest'

const root = fileURLToPath(new URL('..', import.meta.url))

/** Reads files in a process of its own, which tells one line for each; ends it where one takes too long. */
function tried(kind: string): Promise<string[]> {
  const child = spawn(process.execPath, ['--max-old-space-size=1024', '--import', 'tsx', 'formats/test/grown/tryAll.ts', kind], {
    cwd: root,
  })
  let said = ''
  child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()))
  return new Promise((resolve, reject) =>
    child.once('exit', (code, signal) =>
      code === 0 ? resolve(said.trim().split('\n')) : reject(new Error(`${code ?? signal}: ${said.slice(-2000)}`)),
    ),
  )
}

test.each(['damaged', 'grown'])(
  '%s files are read or refused in one sentence, within five seconds and a gigabyte',
  { timeout: 1_800_000 },
  async (kind) => {
    const lines = await tried(kind)
    expect(lines.length).toBeGreaterThanOrEqual(kind === 'damaged' ? 2000 : 200)
    expect(lines.filter((line) => !line.startsWith('ok '))).toEqual([])
  },
)

/** A server of its own for a test run: any free port, a data folder that is thrown away. */
import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export interface TestServer {
  readonly url: string
  readonly data: string
  stop(): Promise<void>
}

const root = fileURLToPath(new URL('..', import.meta.url))

/** Environment variable with the folder that new data begin with. */
export const SEED = 'MARIONETTE_TEST_SEED'

/** A data folder that is thrown away, with the demo puppets in it where they were made before. */
function freshData(environment: Record<string, string>): string {
  const data = mkdtempSync(join(tmpdir(), 'marionette-'))
  const seed = process.env[SEED]
  if (seed && environment['MARIONETTE_DEMO'] !== '0') cpSync(seed, data, { recursive: true })
  return data
}

/** Starts the built product; `environment` overrides its configuration. */
export async function startTestServer(environment: Record<string, string> = {}): Promise<TestServer> {
  const data = environment['MARIONETTE_DATA'] ?? freshData(environment)
  const child = spawn(process.execPath, ['server/dist/main.mjs'], {
    cwd: root,
    env: { ...process.env, MARIONETTE_PORT: '0', MARIONETTE_DATA: data, ...environment },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  const url = await readyAt(child)
  return {
    url,
    data,
    stop: async () => {
      const ended = new Promise((resolve) => child.once('exit', resolve))
      child.kill('SIGTERM')
      await ended
      if (!environment['MARIONETTE_DATA']) rmSync(data, { recursive: true, force: true })
    },
  }
}

function readyAt(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    let said = ''
    const listen = (chunk: Buffer): void => {
      said += chunk.toString()
      const url = /ready at (http:\S+)/.exec(said)?.[1]
      if (url) resolve(url)
    }
    child.stdout!.on('data', listen)
    child.stderr!.on('data', listen)
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)))
  })
}

/**
 * A line between the browser and the server that can be bad: saves are lost on the way, their answers are cut or lost, they come late or
 * twice. Everything else passes.
 */
import { createServer, request as ask, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'

export const TROUBLES = ['fine', 'lost', 'answer lost', 'answer cut', 'late', 'doubled'] as const
export type Trouble = (typeof TROUBLES)[number]

export interface RoughLine {
  readonly url: string
  /** What becomes of the next save. */
  trouble: () => Trouble
  /** Whether nothing passes at all. */
  isDown: boolean
  /** Saves that the server confirmed, whether or not the answer arrived. */
  readonly confirmed: { count: number }
  stop(): Promise<void>
}

const bodyOf = async (from: IncomingMessage): Promise<Buffer> => {
  const chunks: Buffer[] = []
  for await (const chunk of from) chunks.push(chunk as Buffer)
  return Buffer.concat(chunks)
}

interface Passed {
  readonly status: number
  readonly headers: IncomingMessage['headers']
  readonly body: Buffer
}

export async function startRoughLine(server: string): Promise<RoughLine> {
  const target = new URL(server)
  const pass = (from: IncomingMessage, body: Buffer): Promise<Passed> =>
    new Promise((resolve, reject) => {
      const { method, url: path, headers } = from
      const on = ask({ hostname: target.hostname, port: target.port, method, path, headers }, (answer) => {
        bodyOf(answer).then((got) => resolve({ status: answer.statusCode ?? 500, headers: answer.headers, body: got }), reject)
      })
      on.once('error', reject)
      on.end(body)
    })
  const give = (to: ServerResponse, { status, headers, body }: Passed): void => {
    to.writeHead(status, headers)
    to.end(body)
  }
  const confirmed = { count: 0 }

  /** One save, treated as it comes. */
  const save = async (from: IncomingMessage, to: ServerResponse): Promise<void> => {
    const body = await bodyOf(from)
    const trouble = line.trouble()
    const send = async (): Promise<Passed> => {
      const passed = await pass(from, body)
      if (passed.status === 200) confirmed.count++
      return passed
    }
    if (trouble === 'lost') return void to.destroy()
    if (trouble === 'late') {
      // The page hears that it failed; the save arrives a while later.
      to.destroy()
      setTimeout(() => void send().catch(() => undefined), 900)
      return
    }
    const passed = await send()
    if (trouble === 'doubled') return give(to, await send())
    if (trouble === 'answer lost') return void to.destroy()
    if (trouble === 'fine') return give(to, passed)
    to.writeHead(passed.status, passed.headers)
    to.write(passed.body.subarray(0, passed.body.length >> 1), () => to.destroy())
  }

  const proxy: Server = createServer((from, to) => {
    if (line.isDown) return void to.destroy()
    const isSave = from.method === 'PUT' && (from.url ?? '').startsWith('/api/puppets/')
    const work = isSave
      ? save(from, to)
      : bodyOf(from)
          .then((body) => pass(from, body))
          .then((passed) => give(to, passed))
    work.catch(() => to.destroy())
  })
  await new Promise<void>((resolve) => proxy.listen(0, '127.0.0.1', resolve))
  const line: RoughLine = {
    url: `http://127.0.0.1:${(proxy.address() as AddressInfo).port}`,
    trouble: () => 'fine',
    isDown: false,
    confirmed,
    stop: () =>
      new Promise((resolve) => {
        proxy.closeAllConnections()
        proxy.close(() => resolve())
      }),
  }
  return line
}

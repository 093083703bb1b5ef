/** Everything that can be configured: environment variables with their defaults, in one place. */
import { fileURLToPath } from 'node:url'
import { z } from 'zod'
import { nth } from '@marionette/core/kernel/sure'

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

const Environment = z.object({
  /** Address to listen on. */
  MARIONETTE_HOST: z.string().default('127.0.0.1'),
  /** Port to listen on; 0 takes any free one. */
  MARIONETTE_PORT: z.coerce.number().int().min(0).max(65535).default(4600),
  /** Folder of the library's database. */
  MARIONETTE_DATA: z.string().default(here('../data')),
  /** Folder of the built interface. */
  MARIONETTE_APP: z.string().default(here('../app/dist')),
  /** Largest request, in megabytes. */
  MARIONETTE_MAX_UPLOAD_MB: z.coerce.number().positive().default(64),
  /** Most requests that one address may send in ten seconds. */
  MARIONETTE_MAX_REQUESTS: z.coerce.number().int().positive().default(2000),
  /** Further host names under which the server may be reached, separated by commas. */
  MARIONETTE_ALLOWED_HOSTS: z.string().default(''),
  /** What people have to know to get in; needed where the server listens to more than this machine. */
  MARIONETTE_PASSCODE: z.string().min(6, 'a passcode needs at least six characters').max(500).optional(),
  /** Where requests are logged: a file in the data folder, standard output, or nowhere. */
  MARIONETTE_LOG: z.enum(['file', 'stdout', 'off']).default('file'),
  /** Whether an empty library gets the demo puppets: 1 or 0. */
  MARIONETTE_DEMO: z.enum(['0', '1']).default('1'),
})

export interface Config {
  readonly host: string
  readonly port: number
  readonly dataFolder: string
  readonly appFolder: string
  readonly maxUploadBytes: number
  readonly maxRequests: number
  readonly allowedHosts: readonly string[]
  readonly demo: boolean
  readonly passcode: string | null
  readonly log: 'file' | 'stdout' | 'off'
}

/** Whether only this machine can reach an address. */
const isLoopback = (host: string): boolean => /^(localhost|127(\.\d{1,3}){3}|::1|\[::1\])$/i.test(host)

/** Reads the configuration. Throws an Error that names the variable that does not fit. */
export function readConfig(environment: Readonly<Record<string, string | undefined>> = process.env): Config {
  const parsed = Environment.safeParse(environment)
  if (!parsed.success) {
    const issue = nth(parsed.error.issues, 0)
    throw new Error(`${issue.path.join('.')}: ${issue.message}.`)
  }
  const env = parsed.data
  if (!isLoopback(env.MARIONETTE_HOST) && env.MARIONETTE_PASSCODE === undefined)
    throw new Error(
      `MARIONETTE_HOST: ${env.MARIONETTE_HOST} can be reached from other machines, so a passcode is needed: set MARIONETTE_PASSCODE.`,
    )
  return {
    host: env.MARIONETTE_HOST,
    port: env.MARIONETTE_PORT,
    dataFolder: env.MARIONETTE_DATA,
    appFolder: env.MARIONETTE_APP,
    maxUploadBytes: env.MARIONETTE_MAX_UPLOAD_MB * 1024 * 1024,
    maxRequests: env.MARIONETTE_MAX_REQUESTS,
    allowedHosts: [
      'localhost',
      '127.0.0.1',
      '[::1]',
      ...env.MARIONETTE_ALLOWED_HOSTS.split(',')
        .map((h) => h.trim())
        .filter(Boolean),
    ],
    demo: env.MARIONETTE_DEMO === '1',
    passcode: env.MARIONETTE_PASSCODE ?? null,
    log: env.MARIONETTE_LOG,
  }
}

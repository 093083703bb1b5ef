/**
 * Keeps out who does not know the passcode, where one is set. Whoever knows it gets a cookie that counts until they sign out, the
 * server ends, or a month has gone by.
 */
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import { Hono, type Context, type MiddlewareHandler } from 'hono'
import { deleteCookie, getCookie, setCookie } from 'hono/cookie'
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { z } from 'zod'
import { ApiError } from '../errors'
import { body } from '../routes/body'
import { addressOf } from './pace'

const COOKIE = 'marionette-session'
const MONTH = 30 * 24 * 3600
/** Wrong passcodes that one address may try in a minute. */
const TRIES = 8

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** Whether two texts are equal, in a time that does not tell where they differ. */
const isEqual = (a: string, b: string): boolean => timingSafeEqual(digest(a), digest(b))

export class Doorkeeper {
  private readonly sessions = new Map<string, number>()
  private readonly tries = new RateLimiterMemory({ points: TRIES, duration: 60 })

  constructor(private readonly passcode: string | null) {}

  private isKnown(c: Context): boolean {
    if (this.passcode === null) return true
    const token = getCookie(c, COOKIE)
    const until = token === undefined ? undefined : this.sessions.get(digest(token).toString('hex'))
    return until !== undefined && until > Date.now()
  }

  /** Lets only known pages pass. */
  guard(): MiddlewareHandler {
    return async (c, next) => {
      if (!this.isKnown(c)) throw new ApiError(401, 'session.needed', 'This library asks for its passcode first.')
      await next()
    }
  }

  /** /api/session: whether a passcode is asked for, signing in, signing out. */
  routes() {
    return new Hono()
      .get('/', (c) => c.json({ needed: this.passcode !== null, signedIn: this.isKnown(c) }))
      .post('/', body(z.object({ passcode: z.string().max(500) })), async (c) => {
        await this.countTry(c)
        if (this.passcode !== null && !isEqual(c.req.valid('json').passcode, this.passcode))
          throw new ApiError(401, 'session.wrong', 'That is not the passcode of this library.')
        const token = randomBytes(32).toString('base64url')
        for (const [known, until] of this.sessions) if (until < Date.now()) this.sessions.delete(known)
        this.sessions.set(digest(token).toString('hex'), Date.now() + MONTH * 1000)
        setCookie(c, COOKIE, token, { httpOnly: true, sameSite: 'Strict', path: '/', maxAge: MONTH })
        return c.json({ needed: this.passcode !== null, signedIn: true })
      })
      .delete('/', (c) => {
        const token = getCookie(c, COOKIE)
        if (token !== undefined) this.sessions.delete(digest(token).toString('hex'))
        deleteCookie(c, COOKIE, { path: '/' })
        return c.body(null, 204)
      })
  }

  private async countTry(c: Context): Promise<void> {
    try {
      await this.tries.consume(addressOf(c))
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error
      const wait = Math.max(1, Math.ceil(error.msBeforeNext / 1000))
      c.header('Retry-After', String(wait))
      throw new ApiError(429, 'request.many', `Too many tries; try again in ${wait} seconds.`)
    }
  }
}

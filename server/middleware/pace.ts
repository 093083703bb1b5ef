/** Limits how many requests one address may send, so that no page or script can keep the server busy alone. */
import { getConnInfo } from '@hono/node-server/conninfo'
import type { Context, MiddlewareHandler } from 'hono'
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { ApiError } from '../errors'

const SECONDS = 10

/** Whoever asks; requests that come without a connection, as in tests, count as one. */
export function addressOf(c: Context): string {
  try {
    return getConnInfo(c).remote.address ?? 'unknown'
  } catch {
    return 'unknown'
  }
}

/** Refuses an address that sends more than `most` requests in ten seconds. */
export function pace(most: number): MiddlewareHandler {
  const limiter = new RateLimiterMemory({ points: most, duration: SECONDS })
  return async (c, next) => {
    try {
      await limiter.consume(addressOf(c))
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error
      const wait = Math.max(1, Math.ceil(error.msBeforeNext / 1000))
      c.header('Retry-After', String(wait))
      throw new ApiError(429, 'request.many', `Too many requests; try again in ${wait} seconds.`)
    }
    await next()
  }
}

/** What a demo puppet is made of. */
import type { Puppet } from '@marionette/core/puppet/schema'

export interface Demo {
  readonly puppet: Puppet
  /** Bytes of its pictures by their hash. */
  readonly assets: ReadonlyMap<string, Uint8Array>
}

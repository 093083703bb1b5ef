/** A recording that is going on, as it is kept with a draft. */

export interface Recording {
  readonly puppet: string
  readonly response: string
  readonly stop: string
  /** Changes of the history that were in force before it began. */
  readonly since: number
  /** Whether the stop was made for it. */
  readonly isNew: boolean
}

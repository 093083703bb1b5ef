/** A breach of what must hold in a puppet. */
export interface Problem {
  readonly path: string
  readonly message: string
  /** What a person is told whose edit would lead to it; path and message where it is left out. */
  readonly sentence?: string
}

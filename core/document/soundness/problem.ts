/** A breach of what must hold in a puppet. */
export interface Problem {
  readonly path: string
  readonly message: string
}

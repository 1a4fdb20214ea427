export type ApiStatus = 400 | 401 | 403 | 404 | 405 | 409 | 413 | 415 | 422 | 429 | 503

/** A refusal the client can act on: a code for the program, a sentence for the person. */
export class ApiError extends Error {
  constructor(
    readonly status: ApiStatus,
    readonly code: string,
    message: string,
    readonly details: unknown = null,
  ) {
    super(message)
  }
}

export const notFound = (what = 'This') => new ApiError(404, 'notFound', `${what} does not exist, or is not yours to see.`)
export const forbidden = (sentence: string) => new ApiError(403, 'forbidden', sentence)

export const wasErased = () => new ApiError(409, 'erased', 'This customer was erased: nothing is added to this job any more.')

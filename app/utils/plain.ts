/** A copy that nothing watches: to be changed before it is given, or sent to a worker. */
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

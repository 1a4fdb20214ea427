/**
 * An offer, a visit or a home, opened by its link, or a paper that is waited for: whoever reads it may have no account here, and
 * needs nothing of the crew’s program.
 */
export const isCustomersPage = (path: string): boolean => ['/offer/', '/visit/', '/home/', '/paper'].some((one) => path.startsWith(one))

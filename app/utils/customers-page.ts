/** An offer or a visit, opened by its link: whoever reads it has no account here, and needs nothing of the crew’s program. */
export const isCustomersPage = (path: string): boolean => path.startsWith('/offer/') || path.startsWith('/visit/')

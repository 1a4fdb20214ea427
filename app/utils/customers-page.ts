/** An offer, a visit or a home, opened by its link: whoever reads it has no account here, and needs nothing of the crew’s program. */
export const isCustomersPage = (path: string): boolean => ['/offer/', '/visit/', '/home/'].some((one) => path.startsWith(one))

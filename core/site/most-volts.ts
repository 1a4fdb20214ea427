/** No reading of a home has more: one that does was mistyped, or its unit is another one. */
export const mostVolts = 1000

/** A picture is sent with at most so many bytes. */
export const pictureLimitBytes = 8 * 1024 * 1024
/** Its longest side, as it is sent and stored: what a person reads of a box is still to be read. */
export const longestSide = 2560

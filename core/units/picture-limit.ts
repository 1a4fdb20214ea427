/** A picture is sent with at most so many bytes. */
export const pictureLimitBytes = 8 * 1024 * 1024

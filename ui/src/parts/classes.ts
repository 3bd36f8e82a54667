/** Class names from several parts; what is not wanted is left out. */
export const classes = (...parts: (string | false | null | undefined)[]) => parts.filter(Boolean).join(' ')

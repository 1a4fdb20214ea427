/** What stands where words were. */
export const erasedWord = '(erased)'

/** Skills to choose from: what the branch knows of, and what was chosen before that was taken off its list. */
export const skillItems = (known: readonly string[] | undefined, chosen: readonly string[]): { value: string; label: string }[] =>
  [...new Set([...(known ?? []), ...chosen])].map((skill) => ({ value: skill, label: skill }))

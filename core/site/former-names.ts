/** Commands by the names that earlier programs gave them: a phone that was away still says them so. */
const formerCommands: Record<string, string> = {
  partNeutral: 'openNeutral',
  guardBox: 'makeSafe',
  startSolo: 'startLoneWork',
  endSolo: 'endLoneWork',
  scopeHunt: 'scopeTracing',
  answerGrant: 'answerPermit',
}

/** A command under today's name. */
export const underTodaysName = <C extends { type: string }>(command: C): C => {
  const type = formerCommands[command.type]
  return type ? { ...command, type } : command
}

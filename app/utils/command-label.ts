/** What a kept entry is called in the list of what waits. */
const labels: Record<string, (command: Record<string, unknown>) => string> = {
  observeBreaker: (command) => `breaker ${command.how === 'found' ? 'found ' : ''}${command.state}`,
  observeLive: () => 'voltage seen',
  hangTag: () => 'tag hung',
  removeTag: () => 'tag taken off',
  openBox: () => 'plate off',
  closeBox: () => 'box closed',
  guardBox: () => 'capped and guarded',
  recordConductors: () => 'conductors',
  startProof: (command) => `tester on a live source, ${command.volts} V`,
  seeReference: (command) => `reference, ${command.volts} V`,
  takeReading: (command) => `${command.a} → ${command.b === 'REF' ? 'reference' : command.b}: ${command.volts} V`,
  sweepReadings: (command) => `${(command.pairs as unknown[]).length} pairs, highest ${command.highestVolts} V`,
  finishProof: (command) => `tester again, ${command.volts} V`,
  abandonProof: () => 'proof given up',
  confirmStopped: () => 'stopped, hands out',
  checkIn: () => 'check-in',
  arrive: () => 'arrived',
  addPhoto: () => 'picture in the record',
  establishRole: (command) => `${command.letter} is ${command.role}`,
  noteFound: () => 'box as found',
  readWires: (command) => `${(command.readings as unknown[]).length} readings`,
  planWiring: () => 'wiring laid',
  observeFunctions: () => 'what the box does',
  chooseDevice: () => 'device chosen',
  markStep: () => 'step done',
  recordUnit: (command) => `serial ${command.serial}`,
  testPoint: (command) => `test: ${command.result}`,
  recordPairing: (command) => `pairing ${command.result}`,
  nameUnit: (command) => `name “${command.name}”`,
  listDefect: (command) => `open defect: ${command.text}`,
}

export function commandLabel(command: { type: string } & Record<string, unknown>): string {
  return labels[command.type]?.(command) ?? command.type.replace(/([A-Z])/g, ' $1').toLowerCase()
}

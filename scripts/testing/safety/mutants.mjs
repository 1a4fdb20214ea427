// Rules of core/site switched off one by one, as edits of its source. Each has to be caught by the simulated crew.
// `only` names what it must be caught by, so that a mutant is not "caught" by something it did not cause.
// `seed`: a course in which it shows early; the others show it too, some of them ten times later.
export const mutants = [
  {
    name: 'anybody’s tag isolates',
    seed: 4,
    edits: [
      {
        file: 'feeds.ts',
        find: 'return tag.personId === personId && !tag.company && holds(tag)',
        put: 'return !tag.company && holds(tag)',
      },
    ],
  },
  {
    name: 'the company’s lock isolates',
    seed: 5,
    edits: [
      {
        file: 'feeds.ts',
        find: 'return tag.personId === personId && !tag.company && holds(tag)',
        put: 'return tag.personId === personId && holds(tag)',
      },
    ],
  },
  {
    name: 'a suspended tag isolates',
    seed: 7,
    edits: [{ file: 'feeds.ts', find: 'tag.suspendedFor === null && !tag.defeated', put: '!tag.defeated' }],
  },
  {
    name: 'one of several supplies cut is enough',
    seed: 5,
    edits: [{ file: 'feeds.ts', find: 'return supplies.every(', put: 'return supplies.some(' }],
  },
  {
    name: 'one of several feeds open is enough',
    seed: 7,
    focus: { plot: 'twoFeeds' },
    edits: [
      {
        file: 'permissions/isolated.ts',
        find: "if (missing.length === 0) return { yes: true, restsOn: ['every feed",
        put: "if (missing.length < Math.max(1, box.breakerIds.length)) return { yes: true, restsOn: ['every feed",
      },
    ],
  },
  {
    name: 'an unknown feed needs nothing',
    edits: [{ file: 'feeds.ts', find: 'if (!feedIsUnknown(box)) return open', put: 'return open' }],
  },
  {
    name: 'a tag hangs on any breaker',
    edits: [
      {
        file: 'permissions/tag.ts',
        find: "  if (breaker.state !== 'open')\n    return no(\n      'notOpen',\n      [\n",
        put: "  if (breaker.state === 'tripped')\n    return no(\n      'notOpen',\n      [\n",
      },
    ],
  },
  {
    name: 'tags hang while a permit to close is out',
    seed: 9,
    edits: [
      {
        file: 'permissions/tag.ts',
        find: "  const permit = permitOn(site, breakerId)\n  if (permit)\n    return no(\n      'grantOutstanding',",
        put: "  const permit = permitOn(site, breakerId)\n  if (permit && false)\n    return no(\n      'grantOutstanding',",
      },
      {
        file: 'permissions/isolated.ts',
        find: 'tagsOn(site, breaker.id).some((tag) => protects(tag, personId)) && !permitOn(site, breaker.id)',
        put: 'tagsOn(site, breaker.id).some((tag) => protects(tag, personId))',
      },
      {
        file: 'permissions/touch.ts',
        find: '  const permit = permitReaching(site, box)\n  if (permit) {',
        put: '  const permit = permitReaching(site, box)\n  if (permit && false) {',
      },
      {
        file: 'consequence.ts',
        find: '  const permit = permitReaching(site, box)\n  if (permit)',
        put: '  const permit = permitReaching(site, box)\n  if (permit && false)',
      },
    ],
  },
  {
    name: 'closing over tags',
    edits: [{ file: 'permissions/close.ts', find: 'if (ask && tag.suspendedFor === ask.id) continue', put: 'if (tag) continue' }],
  },
  {
    name: 'closing on open boxes',
    seed: 4,
    edits: [
      {
        file: 'permissions/close.ts',
        find: "    if (box.closure === 'closed' || !isBehind(site, box, breaker.id)) continue",
        put: '    if (box) continue',
      },
    ],
  },
  {
    name: 'closing after a trip nobody looked into',
    focus: { plot: 'trip' },
    edits: [
      {
        file: 'permissions/close.ts',
        find: '  if (breaker.tripUnexplained)\n    yield',
        put: '  if (breaker.tripUnexplained && false)\n    yield',
      },
    ],
  },
  {
    name: 'closing what nobody ruled out',
    seed: 2,
    focus: { plot: 'secret', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'permissions/close.ts',
        find: "    if (proof.status === 'void') continue\n    const box",
        put: '    if (proof) continue\n    const box',
      },
    ],
  },
  {
    name: 'closing while an alarm waits for its answer',
    seed: 11,
    focus: { plot: 'alarm', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'permissions/close.ts',
        find: '    if (saidClear(closing, alarm.personId)) continue\n    const box',
        put: '    if (alarm) continue\n    const box',
      },
    ],
  },
  {
    name: 'what was off is ruled out too',
    seed: 3,
    focus: { plot: 'secret', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'proof/finish-proof.ts',
        find: 'if (isKnownLive(site, breaker) && !isBehind(site, proven, breaker.id) &&',
        put: 'if (!isBehind(site, proven, breaker.id) &&',
      },
    ],
  },
  {
    name: 'found open, and still ruled out',
    seed: 6,
    focus: { plot: 'foundOff', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'power/observe-breaker.ts',
        find: "    if (payload.how === 'found' || ruled.seq > payload.knewSeq || fresh) delete",
        put: '    if (ruled.seq < 0) delete',
      },
    ],
  },
  {
    name: 'a new conductor keeps what was ruled out and proven',
    seed: 2,
    edits: [{ file: 'home/record-conductors.ts', find: '...(changed ? consequenceFor', put: '...(changed && !changed ? consequenceFor' }],
  },
  {
    name: 'a permit to close ends no proof',
    seed: 5,
    focus: { plot: 'moment', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'power/request-close.ts',
        find: "    end(site, payload, { code: 'leaveGiven', breakerId: payload.breakerId }, event, {\n      breakerId: payload.breakerId,\n    })\n",
        put: '',
      },
    ],
  },
  {
    name: 'found closed ends no proof',
    seed: 6,
    focus: { plot: 'child' },
    edits: [
      {
        file: 'power/observe-breaker.ts',
        find: '    end(site, payload, why, event, { boxIds, breakerId: breaker.id })',
        put: '    void [why, boxIds]',
      },
      {
        file: 'power/observe-breaker.ts',
        find: "    if (payload.state !== 'open' || payload.again) defeatTags(site, breaker.id)\n",
        put: '',
      },
    ],
  },
  {
    name: 'a lever opened twice was open all the time',
    seed: 6,
    focus: { plot: 'child' },
    edits: [
      {
        file: 'power/observe-breaker.ts',
        find: "const again = command.state === 'open' && command.how === 'did' && breaker.state === 'open'",
        put: 'const again = false',
      },
    ],
  },
  {
    name: 'voltage seen ends no proof',
    seed: 4,
    edits: [
      {
        file: 'changes.ts',
        find: '  voidProofs(site, payload.voids, why)\n}\n\n/** Dead by low impedance',
        put: '  void why\n}\n\n/** Dead by low impedance',
      },
      { file: 'changes.ts', find: '  raise(site, payload.alarms, [...payload.voids, ...suspends], reached, null, event)\n', put: '' },
    ],
  },
  {
    name: 'a late “open” counts',
    seed: 4,
    edits: [{ file: 'power/observe-breaker.ts', find: '(basedOnSeq < breaker.energisedSeq || grantHeld)', put: 'grantHeld' }],
  },
  {
    name: '“open” counts while a permit to close is out',
    seed: 7,
    edits: [
      {
        file: 'power/observe-breaker.ts',
        find: '(basedOnSeq < breaker.energisedSeq || grantHeld)',
        put: 'basedOnSeq < breaker.energisedSeq',
      },
      {
        file: 'power/observe-breaker.ts',
        find: "    if (payload.state === 'open' && !payload.late) {",
        put: "    if (payload.state === 'open') for (const grant of Object.values(site.grants)) if (grant.breakerId === breaker.id) delete site.grants[grant.id]\n    if (payload.state === 'open' && !payload.late) {",
      },
    ],
  },
  {
    name: 'a silent reference will do',
    seed: 2,
    focus: { odd: { hiddenFeed: 1, noNeutral: 1 } },
    edits: [
      {
        file: 'proof/see-reference.ts',
        find: '    if (problem.refused) return problem.refused\n    return accept(referenceSeen(',
        put: '    if (problem.refused && false) return problem.refused\n    return accept(referenceSeen(',
      },
      { file: 'proof/see-reference.ts', find: 'warning: problem.warning, anew', put: 'warning: null, anew' },
    ],
  },
  {
    name: 'conductors are not read against each other',
    focus: { odd: { groundBreaks: 3, hiddenFeed: 1, noNeutral: 0, everyPair: 0 } },
    edits: [
      { file: 'proofs.ts', find: 'secondStar(shown, site.schemeId) : []', put: '[] : []' },
      { file: 'proof/finish-proof.ts', find: '    if (!proof.referenceSeenAgain)\n', put: '    if (!proof)\n' },
    ],
  },
  {
    name: 'one position of the far switch is enough',
    seed: 2,
    focus: { odd: { far: 1, otherTraveller: 1 } },
    edits: [{ file: 'proofs.ts', find: "(['up', 'down'] as const).map((side)", put: "(['up'] as const).map((side)" }],
  },
  {
    name: 'readings may be left out',
    edits: [
      { file: 'proof/finish-proof.ts', find: 'if (left.length > 0) {', put: 'if (left.length > 999) {' },
      { file: 'proof/finish-proof.ts', find: '    if (!proof.referenceSeenAgain)\n', put: '    if (!proof)\n' },
    ],
  },
  {
    name: 'a high-impedance reading counts as ghost voltage',
    edits: [
      {
        file: 'proof/take-reading.ts',
        find: "if (command.impedance === 'high' && command.volts >= liveFromVolts && !floats)",
        put: "if (command.impedance === 'high' && command.volts >= 9999 && !floats)",
      },
      {
        file: 'reading.ts',
        find: "  if (impedance === 'high')\n    return {\n      verdict: 'repeatLow',",
        put: "  if (impedance === 'high')\n    return {\n      verdict: 'dead',",
      },
    ],
  },
  {
    name: 'low voltage is dead',
    seed: 3,
    edits: [
      { file: 'reading.ts', find: "    verdict: 'unexplained',", put: "    verdict: 'dead'," },
      {
        file: 'proof/sweep-readings.ts',
        find: "    if (judgeReading(command.highestVolts, command.impedance).verdict !== 'dead')",
        put: '    if (command.highestVolts >= 50)',
      },
    ],
  },
  {
    name: 'the tester is not proved first',
    edits: [
      {
        file: 'proof/problems.ts',
        find: '    return volts < liveFromVolts\n      ? {',
        put: '    return volts < 0\n      ? {',
      },
      { file: 'reading.ts', find: 'Math.abs(now - before) <= sameSourceTolerance * before', put: 'before <= now' },
    ],
  },
  {
    name: 'the tester is not proved again',
    edits: [
      {
        file: 'proof/finish-proof.ts',
        find: 'const testerGood = sameAsBefore(proof.sourceVolts, command.volts, isStepDisplay(proof)) && sourceStillLive(site, proof)',
        put: 'const testerGood = true',
      },
    ],
  },
  {
    name: 'calibration does not matter',
    seed: 7,
    edits: [{ file: 'proof/problems.ts', find: 'if (instrument.calibrationDue < today)', put: "if (instrument.calibrationDue < '')" }],
  },
  {
    name: 'a mate’s proof needs no witness',
    seed: 2,
    edits: [
      { file: 'permissions/touch.ts', find: 'return took && hasLicensedEyes(proof, asker)', put: 'return hasLicensedEyes(proof, asker)' },
    ],
  },
  {
    name: 'an apprentice’s proof needs no licensed eyes',
    seed: 5,
    edits: [{ file: 'permissions/touch.ts', find: 'return took && hasLicensedEyes(proof, asker)', put: 'return took' }],
  },
  {
    name: 'proofs never grow old',
    edits: [
      {
        file: 'permissions/touch.ts',
        find: "if (proofMinutesLeft(proof, vantage) <= 0)\n    return no('proofExpired'",
        put: "if (proofMinutesLeft(proof, vantage) <= -1e9)\n    return no('proofExpired'",
      },
    ],
  },
  {
    name: 'a proof that waited on a phone is as good as new',
    focus: { plot: 'lunch' },
    edits: [{ file: 'proof/finish-proof.ts', find: 'Date.parse(context.now) - context.heldMs', put: 'Date.parse(context.now)' }],
  },
  {
    name: 'readings from before the power count',
    focus: { plot: 'cellar', odd: { hiddenFeed: 1 }, events: { householder: 25, line: 25 } },
    edits: [{ file: 'consequence.ts', find: 'return basedOnSeq < energySeqOf(site, box)', put: 'return basedOnSeq < 0' }],
  },
  {
    name: 'clear, and hands back in',
    seed: 2,
    focus: { plot: 'moment', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'permissions/touch.ts',
        find: "  if (cleared)\n    return no(\n      'saidClear'",
        put: "  if (cleared && false)\n    return no(\n      'saidClear'",
      },
    ],
  },
  {
    name: 'power for a moment without everyone clear',
    edits: [
      {
        file: 'permissions/close.ts',
        find: '  const against = [...closingObstacles(site, breaker, ask)]\n',
        put: '  const against = [] as Obstacle[]\n',
      },
    ],
  },
  {
    name: 'a tag hangs again while the breaker is closed',
    seed: 2,
    focus: { plot: 'again' },
    edits: [
      {
        file: 'power/rehang-tag.ts',
        find: "'Have it answered and the {breaker} opened first.',\n      )\n    if (breaker.state !== 'open')",
        put: "'Have it answered and the {breaker} opened first.',\n      )\n    if (!breaker)",
      },
    ],
  },
  {
    name: 'anybody measures live',
    seed: 3,
    edits: [
      {
        file: 'permissions/measure.ts',
        find: "  if (!asker.licensed) return no('licenceNeeded', ['Only a licensed",
        put: "  if (!asker) return no('licenceNeeded', ['Only a licensed",
      },
      {
        file: 'proof/start-measuring.ts',
        find: "if (!actor.licensed) return refuse('licenceNeeded', 'Only a licensed",
        put: "if (!actor) return refuse('licenceNeeded', 'Only a licensed",
      },
    ],
  },
  {
    name: 'nobody need be warned',
    seed: 2,
    edits: [
      { file: 'proof/start-measuring.ts', find: 'if (asks.length === 0 && !alone.working)', put: 'if (asks.length < 0)' },
      {
        file: 'permissions/measure.ts',
        find: 'if (announced.warnedIds.length === 0 && !alone.working)',
        put: 'if (announced.warnedIds.length < 0)',
      },
    ],
  },
  {
    name: 'measuring live beside a mate’s hands',
    focus: { plot: 'measure' },
    edits: [{ file: 'permissions/measure.ts', find: '  const mate = Object.values(site.proofs).find(', put: '  const mate = [].find(' }],
  },
  {
    name: 'a neutral is parted with current in it',
    focus: { odd: { borrowed: 1, noNeutral: 0 } },
    edits: [
      {
        file: 'box/open-neutral.ts',
        find: "if (basis.kind === 'clamp' && basis.amps >= noCurrentBelowAmps)",
        put: "if (basis.kind === 'clamp' && basis.amps < 0)",
      },
    ],
  },
  {
    name: 'parted ends need no test',
    seed: 2,
    edits: [
      {
        file: 'permissions/touch.ts',
        find: 'const parted = box.parted.find((part) => !part.tested)',
        put: 'const parted = box.parted.find((part) => !part)',
      },
    ],
  },
  {
    name: 'going home with a tag hanging',
    edits: [{ file: 'crew/leave-site.ts', find: 'if (tags.length > 0) {', put: 'if (tags.length > 99) {' }],
  },
  {
    name: 'bare ends stay for the night',
    seed: 4,
    edits: [{ file: 'crew/leave-site.ts', find: 'if (kept || isLeftSafe(site, box)) continue', put: 'if (box) continue' }],
  },
  {
    name: 'a late “closed up” counts',
    seed: 2,
    focus: { plot: 'lateClosed' },
    edits: [
      {
        file: 'box/close-box.ts',
        find: '    if (openedSince(box, context)) return lateWord(site, box)\n    // Nothing was touched',
        put: '    // Nothing was touched',
      },
    ],
  },
  {
    name: 'an unknown entry changes nothing',
    seed: 9,
    edits: [
      {
        file: 'permissions/touch.ts',
        find: 'export function canTouch(site: SiteState, boxId: string, asker: Asker, vantage: Vantage): Answer {\n  if (vantage.acknowledged) return canTouchOffline(vantage.acknowledged, site, boxId, asker, { ...vantage, acknowledged: null })\n  if (site.unknownEvent) return unknownAnswer(site)\n',
        put: 'export function canTouch(site: SiteState, boxId: string, asker: Asker, vantage: Vantage): Answer {\n',
      },
    ],
  },
  {
    name: 'without network an unsent tag counts',
    focus: { plot: 'unsent' },
    edits: [
      {
        file: 'permissions/touch.ts',
        find: 'const isolation = isIsolatedFor({ ...known, tags }, box, asker.personId)',
        put: 'const isolation = isIsolatedFor(here, here.boxes[boxId]!, asker.personId)',
      },
    ],
  },
  {
    name: 'without network a tag taken off here still counts',
    seed: 2,
    focus: { plot: 'unsent' },
    edits: [{ file: 'permissions/touch.ts', find: 'isIsolatedFor({ ...known, tags }, box', put: 'isIsolatedFor(known, box' }],
  },
  {
    name: 'without network a mate’s proof counts',
    focus: { plot: 'watch' },
    edits: [
      {
        file: 'permissions/touch.ts',
        find: "  if (!proof || proof.personId !== asker.personId)\n    return no('offlineOwnProof'",
        put: "  if (!proof)\n    return no('offlineOwnProof'",
      },
    ],
  },
  {
    name: 'without network nobody need know',
    seed: 7,
    focus: { plot: 'cellar', odd: { hiddenFeed: 1 } },
    edits: [{ file: 'permissions/touch.ts', find: 'if (!crewKnows && unknown.length > 0)', put: 'if (!crewKnows && unknown.length > 99)' }],
  },
  {
    name: 'an answer nobody heard does not matter',
    seed: 2,
    focus: { plot: 'unheardClear' },
    edits: [{ file: 'permissions/touch.ts', find: '  if (vantage.outcomeUnknown)\n', put: '  if (vantage.outcomeUnknown && false)\n' }],
  },
  {
    name: 'without network the crew knows of any proof',
    seed: 9,
    focus: { plot: 'unheardClosed', odd: { hiddenFeed: 1 } },
    edits: [
      {
        file: 'permissions/touch.ts',
        find: "const crewKnows = proof.id in known.proofs && known.proofs[proof.id]!.status !== 'void'",
        put: "const crewKnows = Object.values(known.proofs).some((one) => one.boxId === boxId && one.personId === asker.personId && one.status !== 'void')",
      },
    ],
  },
  {
    name: 'a tag under which the lever was found closed still isolates',
    seed: 7,
    focus: { plot: 'child' },
    edits: [{ file: 'feeds.ts', find: 'tag.suspendedFor === null && !tag.defeated', put: 'tag.suspendedFor === null' }],
  },
  {
    name: 'voltage speaks of its own box only',
    seed: 5,
    focus: { plot: 'elsewhere' },
    edits: [
      {
        file: 'consequence.ts',
        find: "const boxes = reach === 'own' ? [box] : boxesInDoubt(site, box)",
        put: 'const boxes = [box]; void boxesInDoubt',
      },
    ],
  },
  {
    name: 'a high-impedance reading holds nobody',
    seed: 9,
    focus: { plot: 'elsewhere' },
    edits: [
      { file: 'consequence.ts', find: 'suspends: suspense ? living.filter((id) => id !== own) : [],', put: 'suspends: [],' },
      { file: 'consequence.ts', find: '    alarms,\n    suspense,', put: '    alarms: suspense ? [] : alarms,\n    suspense,' },
    ],
  },
  {
    name: 'another proof without a cause',
    focus: { odd: { timer: 1 }, events: { timer: 6 } },
    edits: [
      {
        file: 'proof/start-proof.ts',
        find: '    if (sign) return causeMissing(site, sign)\n    // That a plate',
        put: '    // That a plate',
      },
      {
        file: 'proof/finish-proof.ts',
        find: '    if (sign) return causeMissing(site, sign)\n    const isolation',
        put: '    const isolation',
      },
    ],
  },
  {
    name: 'a source without a switching point does not matter',
    seed: 9,
    focus: { odd: { battery: 1 } },
    edits: [
      {
        file: 'feeds.ts',
        find: 'source.ruledOut === null && !switched.has(source.id)',
        put: 'source.ruledOut === null && !switched.has(source.id) && !source',
      },
    ],
  },
  {
    name: 'a licence that ends does not matter',
    focus: { events: { licence: 5 } },
    edits: [
      {
        file: 'crew/note-person.ts',
        find: 'const over = command.licensed && command.active ? [] : withoutLicensedEyes(site, command.personId)',
        put: 'const over: Proof[] = []',
      },
      {
        file: 'permissions/touch.ts',
        find: '(personId === asker?.personId ? asker.licensed && licensed : licensed)',
        put: 'licensed || (asker !== undefined && personId === asker.personId)',
      },
      { file: 'crew/note-person.ts', find: '      if (proof.personId === personId) proof.proverLicensed &&= licensed\n', put: '' },
    ],
  },
  {
    name: 'what gives up one’s own safety counts only once it is answered',
    seed: 4,
    focus: { plot: 'slowClear' },
    edits: [{ file: 'stream.ts', find: '({ givesUp }) => givesUp', put: '() => false' }],
  },
  {
    name: 'whoever lays out knows of it, wherever their hands are',
    seed: 4,
    focus: { plot: 'measure', events: { office: 6 } },
    edits: [
      {
        file: 'home/lay-out.ts',
        find: 'boxesChangedBy(site, command), [], null)',
        put: 'boxesChangedBy(site, command), [], context.actor)',
      },
      { file: 'home/lay-out.ts', find: '  decide(site, command: LayOut) {', put: '  decide(site, command: LayOut, context) {' },
    ],
  },
  {
    name: 'what is forbidden here is kept all the same',
    focus: { odd: { borrowed: 1, noNeutral: 0 } },
    edits: [
      {
        file: 'core/stream/client/unsent.ts',
        find: "return decision.ok || isFact || decision.refusal.code === 'updateNeeded' ? null : decision.refusal",
        put: 'return isFact && !decision.ok ? null : null',
      },
    ],
  },
  {
    name: 'a stop stops nobody',
    focus: { plot: 'halted' },
    edits: [
      {
        file: 'permissions/touch.ts',
        find: '  const stopped = stoppedAnswer(site)\n  if (stopped) return stopped\n  const box = site.boxes[boxId]\n',
        put: '  const box = site.boxes[boxId]\n',
      },
    ],
  },
  {
    name: 'whoever guards an open box may be gone',
    seed: 8,
    focus: { plot: 'guard' },
    edits: [
      {
        file: 'permissions/close.ts',
        find: '      if (guard && guard.personId in site.onSite) continue\n',
        put: '      if (guard) continue\n',
      },
    ],
  },
  {
    name: 'a switch found elsewhere ends nothing',
    seed: 7,
    focus: { odd: { far: 1, farUnlisted: 1 }, events: { far: 12 } },
    edits: [{ file: 'home/correct-box.ts', find: ', ...newlyTied(site, box, command.farBoxIds ?? [])])]', put: '])]' }],
  },
]
